package store

import (
	"archive/zip"
	"context"
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"regexp"
	"slices"
	"time"
)

// A folder of backups holds one file for each, by the time at which it was made in UTC. What has
// another name is somebody's own and stays.
var backupName = regexp.MustCompile(`^ojime-(\d{8}-\d{6})\.zip$`)

const backupTime = "20060102-150405"

// BackupFile is a backup in a folder of them.
type BackupFile struct {
	Name  string
	At    time.Time
	Bytes int64
}

// Backups lists those in a folder, the newest first.
func Backups(dir string) ([]BackupFile, error) {
	entries, err := os.ReadDir(dir)
	if err != nil {
		return nil, fmt.Errorf("read the folder of backups: %w", err)
	}
	var out []BackupFile
	for _, e := range entries {
		name := backupName.FindStringSubmatch(e.Name())
		if name == nil || !e.Type().IsRegular() {
			continue
		}
		at, err := time.Parse(backupTime, name[1])
		if err != nil {
			continue // digits that are no time
		}
		info, err := e.Info()
		if err != nil {
			return nil, fmt.Errorf("read the folder of backups: %w", err)
		}
		out = append(out, BackupFile{e.Name(), at, info.Size()})
	}
	slices.SortFunc(out, func(a, b BackupFile) int { return b.At.Compare(a.At) })
	return out, nil
}

// BackupInto writes a backup into a folder, checks it as a restore would, and removes the oldest of
// those beyond as many as are kept. One that does not pass is removed, and none of the others then.
func (s *Store) BackupInto(ctx context.Context, dir string, keep int, now time.Time) (file string, err error) {
	if err := os.MkdirAll(dir, ownerFolder); err != nil {
		return "", fmt.Errorf("make the folder of backups: %w", err)
	}
	file = filepath.Join(dir, "ojime-"+now.UTC().Format(backupTime)+".zip")
	if err := s.Backup(ctx, file); err != nil {
		return "", err
	}
	if err := CheckBackup(ctx, file, dir); err != nil {
		return "", errors.Join(err, os.Remove(file))
	}
	all, err := Backups(dir)
	if err != nil {
		return file, err
	}
	var errs []error
	for _, old := range all[min(max(keep, 1), len(all)):] {
		if old.Name != filepath.Base(file) {
			errs = append(errs, os.Remove(filepath.Join(dir, old.Name)))
		}
	}
	return file, errors.Join(errs...)
}

// CheckBackup takes a backup out into a folder of its own within another one, holds all of it against what
// it says, and removes that folder again.
func CheckBackup(ctx context.Context, file, within string) (err error) {
	z, err := zip.OpenReader(file)
	if err != nil {
		return fmt.Errorf("%s is no whole backup of this program: %w", file, err)
	}
	defer func() { err = errors.Join(err, z.Close()) }()
	work, err := os.MkdirTemp(within, ".ojime-check-*")
	if err != nil {
		return fmt.Errorf("check %s: %w", file, err)
	}
	defer func() { err = errors.Join(err, os.RemoveAll(work)) }()
	if err := unpack(ctx, &z.Reader, work); err != nil {
		return fmt.Errorf("%s does not pass its check: %w", file, err)
	}
	return nil
}
