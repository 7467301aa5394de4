package store

import (
	"archive/zip"
	"context"
	"crypto/sha256"
	"encoding/hex"
	"errors"
	"fmt"
	"io"
	"io/fs"
	"net/url"
	"os"
	"path"
	"path/filepath"
	"slices"
)

// A backup is one zip file: ojime.db, a consistent copy, and meshes/ and photographs/ with
// every file that it refers to. Its end is written last, so that one that was broken off
// cannot be read as whole.

// Backup writes the record to a new file, under another name until all of it is on
// disk. It may run while the record is in use, also by another process.
func (s *Store) Backup(ctx context.Context, file string) (err error) {
	if _, err := os.Lstat(file); err == nil {
		return fmt.Errorf("%s is there already; choose another name", file)
	}
	work, err := os.MkdirTemp(filepath.Dir(file), ".ojime-backup-*")
	if err != nil {
		return fmt.Errorf("back up to %s: %w", file, err)
	}
	defer func() { err = errors.Join(err, os.RemoveAll(work)) }()
	copied := filepath.Join(work, fileName)
	if err := s.copyTo(ctx, copied); err != nil {
		return fmt.Errorf("back up to %s: %w", file, err)
	}
	packed := filepath.Join(work, "backup.zip")
	if err := s.pack(ctx, copied, packed); err != nil {
		return fmt.Errorf("back up to %s: %w", file, err)
	}
	if err := os.Rename(packed, file); err != nil {
		return fmt.Errorf("back up to %s: %w", file, err)
	}
	return syncFolder(filepath.Dir(file))
}

// copyTo writes a consistent copy of the database. The connection is one of its
// own, since a copy is no change and needs none of the record's locks.
func (s *Store) copyTo(ctx context.Context, file string) error {
	query := url.Values{"_pragma": {"busy_timeout(5000)"}}
	if s.ReadOnly() && !writable(s.dir) {
		query.Set("mode", "ro")
	}
	from, err := connect(filepath.Join(s.dir, fileName), 1, query)
	if err != nil {
		return err
	}
	_, err = from.ExecContext(ctx, "VACUUM INTO ?", file)
	return errors.Join(err, from.Close())
}

// filesOf are the files that a database refers to, as paths within a backup.
func filesOf(ctx context.Context, file string) ([]string, error) {
	pool, err := connect(file, 1, url.Values{"mode": {"ro"}, "immutable": {"1"}})
	if err != nil {
		return nil, err
	}
	rows, err := pool.QueryContext(ctx, filesReferred)
	if err != nil {
		return nil, errors.Join(err, pool.Close())
	}
	names, err := firstColumn(rows)
	return names, errors.Join(err, pool.Close())
}

// filesReferred names the folder and the hash of every file of a record.
const filesReferred = `SELECT '` + meshFolder + `/' || mesh_sha256 FROM piece
UNION SELECT '` + photoFolder + `/' || original_sha256 FROM photograph
UNION SELECT '` + photoFolder + `/' || copy_sha256 FROM photograph
UNION SELECT '` + photoFolder + `/' || small_sha256 FROM photograph
UNION SELECT '` + photoFolder + `/' || original_sha256 FROM unit_photograph
UNION SELECT '` + photoFolder + `/' || copy_sha256 FROM unit_photograph
UNION SELECT '` + photoFolder + `/' || small_sha256 FROM unit_photograph ORDER BY 1`

func (s *Store) pack(ctx context.Context, database, target string) error {
	files, err := filesOf(ctx, database)
	if err != nil {
		return err
	}
	out, err := os.OpenFile(target, os.O_CREATE|os.O_EXCL|os.O_WRONLY, ownerFile)
	if err != nil {
		return err
	}
	z := zip.NewWriter(out)
	err = add(z, fileName, database)
	for _, name := range files {
		if err != nil {
			break
		}
		if err = add(z, name, filepath.Join(s.dir, filepath.FromSlash(name))); errors.Is(err, fs.ErrNotExist) {
			err = nil // one that is missing costs its own entry's picture; check names it
		}
	}
	return errors.Join(err, z.Close(), out.Sync(), out.Close())
}

func add(z *zip.Writer, name, file string) error {
	in, err := os.Open(file)
	if err != nil {
		return err
	}
	defer func() { _ = in.Close() }() // it was only read
	out, err := z.Create(name)
	if err != nil {
		return err
	}
	_, err = io.Copy(out, in)
	return err
}

// Restore checks a backup and puts it into a folder that holds no record. Nothing
// is put there before all of it was checked: that it is whole, that the program
// knows its version, and that every file is what its name says.
func Restore(ctx context.Context, file, dir string) (err error) {
	if _, err := os.Lstat(filepath.Join(dir, fileName)); err == nil {
		return fmt.Errorf("%s holds a record already; name an empty folder", dir)
	}
	z, err := zip.OpenReader(file)
	if err != nil {
		return fmt.Errorf("%s is no whole backup of this program: %w", file, err)
	}
	defer func() { err = errors.Join(err, z.Close()) }()
	if err := prepare(dir); err != nil {
		return err
	}
	lock, err := lockFolder(dir)
	if err != nil {
		return err
	}
	defer func() { err = errors.Join(err, lock.Close()) }()
	work, err := os.MkdirTemp(filepath.Join(dir, tempFolder), "restore-*")
	if err != nil {
		return fmt.Errorf("restore to %s: %w", dir, err)
	}
	defer func() { err = errors.Join(err, os.RemoveAll(work)) }()
	if err := unpack(ctx, &z.Reader, work); err != nil {
		return fmt.Errorf("%s is no whole backup of this program: %w", file, err)
	}
	return errors.Join(settle(work, dir), restrict(dir))
}

// unpack takes out and checks every part of a backup.
func unpack(ctx context.Context, z *zip.Reader, into string) error {
	for _, folder := range fileFolders {
		if err := os.Mkdir(filepath.Join(into, folder), ownerFolder); err != nil {
			return err
		}
	}
	found := false
	for _, part := range z.File {
		name := path.Base(part.Name)
		switch {
		case part.Name == fileName:
			found = true
			if _, err := takeOut(part, filepath.Join(into, fileName)); err != nil {
				return err
			}
		case slices.Contains(fileFolders, path.Dir(part.Name)) && len(name) == 2*sha256.Size:
			sum, err := takeOut(part, filepath.Join(into, path.Dir(part.Name), name))
			if err != nil {
				return err
			}
			if sum != name {
				return fmt.Errorf("%s is not the file that its name says", part.Name)
			}
		default:
			return fmt.Errorf("it holds %.80q, which no backup has", part.Name)
		}
	}
	if !found {
		return fmt.Errorf("it holds no %s", fileName)
	}
	return sound(ctx, filepath.Join(into, fileName))
}

// sound checks a database that was taken out.
func sound(ctx context.Context, file string) error {
	s, err := Look(ctx, filepath.Dir(file))
	if err != nil {
		return err
	}
	wrong, err := s.Check(ctx)
	if err == nil && len(wrong) > 0 {
		err = fmt.Errorf("its database is damaged: %s", wrong[0])
	}
	return errors.Join(err, s.Close())
}

func takeOut(part *zip.File, target string) (sum string, err error) {
	in, err := part.Open()
	if err != nil {
		return "", fmt.Errorf("%s: %w", part.Name, err)
	}
	defer func() { err = errors.Join(err, in.Close()) }()
	out, err := os.OpenFile(target, os.O_CREATE|os.O_EXCL|os.O_WRONLY, ownerFile)
	if err != nil {
		return "", err
	}
	hash := sha256.New()
	_, err = io.Copy(io.MultiWriter(out, hash), in)
	if err := errors.Join(err, out.Sync(), out.Close()); err != nil {
		return "", fmt.Errorf("%s: %w", part.Name, err)
	}
	return hex.EncodeToString(hash.Sum(nil)), nil
}

// settle moves what was checked to its place, the database last: until then the
// folder holds no record.
func settle(from, dir string) error {
	for _, folder := range fileFolders {
		files, err := os.ReadDir(filepath.Join(from, folder))
		if err != nil {
			return err
		}
		for _, f := range files {
			if err := os.Rename(filepath.Join(from, folder, f.Name()), filepath.Join(dir, folder, f.Name())); err != nil {
				return err
			}
		}
		if err := syncFolder(filepath.Join(dir, folder)); err != nil {
			return err
		}
	}
	return errors.Join(os.Rename(filepath.Join(from, fileName), filepath.Join(dir, fileName)), syncFolder(dir))
}

// Discard removes the record in a folder, such as a demo that was broken off.
// Files of other names are somebody's own and stay.
func Discard(dir string) error {
	var errs []error
	for _, name := range []string{fileName, fileName + "-wal", fileName + "-shm", tempFolder} {
		errs = append(errs, os.RemoveAll(filepath.Join(dir, name)))
	}
	for _, folder := range fileFolders {
		files, err := os.ReadDir(filepath.Join(dir, folder))
		if err != nil && !errors.Is(err, fs.ErrNotExist) {
			errs = append(errs, err)
		}
		for _, f := range files {
			if path := filepath.Join(dir, folder, f.Name()); ours(dir, path) {
				errs = append(errs, os.Remove(path))
			}
		}
	}
	return errors.Join(errs...)
}
