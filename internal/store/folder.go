package store

import (
	"errors"
	"fmt"
	"io/fs"
	"os"
	"path/filepath"
	"regexp"
	"slices"
	"strings"
	"syscall"
)

// The folder of a record: ojime.db, meshes/, photographs/, and ojime-tmp/ for uploads
// on their way.
// What else lies there is somebody's own and is left alone.
const (
	meshFolder  = "meshes"
	photoFolder = "photographs"
	tempFolder  = "ojime-tmp"
	lockName    = "ojime.lock"

	ownerFolder fs.FileMode = 0o700
	ownerFile   fs.FileMode = 0o600
)

// prepare makes the folder and what belongs in it, for its owner alone.
func prepare(dir string) error {
	for _, folder := range []string{dir, filepath.Join(dir, meshFolder), filepath.Join(dir, photoFolder), filepath.Join(dir, tempFolder)} {
		if err := os.MkdirAll(folder, ownerFolder); err != nil {
			return fmt.Errorf("make the data folder: %w", err)
		}
	}
	return nil
}

// TempDir is where uploads wait; Tidy empties it.
func (s *Store) TempDir() string { return filepath.Join(s.dir, tempFolder) }

// lockFolder keeps the folder for this process: two that write would not hear of
// each other's changes.
func lockFolder(dir string) (*os.File, error) {
	lock, err := os.OpenFile(filepath.Join(dir, lockName), os.O_CREATE|os.O_RDWR, ownerFile)
	if err != nil {
		return nil, fmt.Errorf("lock the data folder: %w", err)
	}
	if err := syscall.Flock(int(lock.Fd()), syscall.LOCK_EX|syscall.LOCK_NB); err != nil {
		return nil, errors.Join(fmt.Errorf("another ojime works on %s; end that one first, or name another folder with --data", dir), lock.Close())
	}
	return lock, nil
}

// restrict makes every file of a record its owner's alone, also those that an
// older program or a copy left open to others.
func restrict(dir string) error {
	err := filepath.WalkDir(dir, func(path string, d fs.DirEntry, err error) error {
		if err != nil {
			return err
		}
		switch mode := d.Type(); {
		case d.IsDir() && path != dir && filepath.Dir(path) == dir && !slices.Contains(append(fileFolders, tempFolder), d.Name()):
			return filepath.SkipDir // not ours
		case d.IsDir():
			return os.Chmod(path, ownerFolder)
		case mode.IsRegular() && ours(dir, path):
			return os.Chmod(path, ownerFile)
		}
		return nil
	})
	if err != nil {
		return fmt.Errorf("keep the record from others: %w", err)
	}
	return nil
}

// hashName is a content hash; no file of another name in the folders of files is ours.
var hashName = regexp.MustCompile(`^[0-9a-f]{64}$`)

func ours(dir, path string) bool {
	name := filepath.Base(path)
	switch filepath.Dir(path) {
	case dir:
		return strings.HasPrefix(name, "ojime.")
	case filepath.Join(dir, meshFolder), filepath.Join(dir, photoFolder):
		return hashName.MatchString(name) || strings.HasPrefix(name, incoming)
	}
	return true
}

func writable(dir string) bool {
	probe, err := os.CreateTemp(dir, ".probe-*")
	if err != nil {
		return false
	}
	return errors.Join(probe.Close(), os.Remove(probe.Name())) == nil
}

// incoming begins the names of files that are being written.
const incoming = "incoming-"

// Tidy clears what uploads and imports that were broken off left behind.
func (s *Store) Tidy() error {
	for folder, prefix := range map[string]string{tempFolder: "", meshFolder: incoming, photoFolder: incoming} {
		files, err := os.ReadDir(filepath.Join(s.dir, folder))
		if err != nil {
			return fmt.Errorf("tidy the data folder: %w", err)
		}
		for _, f := range files {
			if strings.HasPrefix(f.Name(), prefix) {
				if err := os.RemoveAll(filepath.Join(s.dir, folder, f.Name())); err != nil {
					return fmt.Errorf("tidy the data folder: %w", err)
				}
			}
		}
	}
	return nil
}
