package store

import (
	"errors"
	"fmt"
	"io/fs"
	"os"
	"path/filepath"

	"ojime/internal/bench"
)

// Files are files of one kind, each under its content hash: meshes, or photographs.
type Files struct {
	store  *Store
	folder string
	// what is said of one of them.
	what string
}

// fileFolders are the folders of files by content hash.
var fileFolders = []string{meshFolder, photoFolder}

// Meshes are the mesh files of the record.
func (s *Store) Meshes() Files { return Files{s, meshFolder, "mesh"} }

// Photographs are the picture files of the record: as they were received, and the copies
// that were made of them.
func (s *Store) Photographs() Files { return Files{s, photoFolder, "picture"} }

func (f Files) dir() string { return filepath.Join(f.store.dir, f.folder) }

// path is of the hash alone, so that no name from outside is a path.
func (f Files) path(sha256 string) string { return filepath.Join(f.dir(), filepath.Base(sha256)) }

// Save keeps a file under its content hash, on disk before it returns.
func (f Files) Save(sha256 string, data []byte) (err error) {
	target := f.path(sha256)
	if _, err := os.Stat(target); err == nil {
		return nil
	}
	file, err := os.CreateTemp(f.dir(), incoming+"*")
	if err != nil {
		return fmt.Errorf("save %s: %w", f.what, err)
	}
	defer func() {
		if err != nil {
			err = errors.Join(err, os.Remove(file.Name()))
		}
	}()
	_, err = file.Write(data)
	err = errors.Join(err, file.Sync(), file.Close())
	if err != nil {
		return fmt.Errorf("save %s: %w", f.what, err)
	}
	if err := os.Rename(file.Name(), target); err != nil {
		return fmt.Errorf("save %s: %w", f.what, err)
	}
	return syncFolder(f.dir())
}

// syncFolder makes a new name in a folder as durable as the file behind it.
func syncFolder(dir string) error {
	folder, err := os.Open(dir)
	if err != nil {
		return fmt.Errorf("sync the folder: %w", err)
	}
	if err := errors.Join(folder.Sync(), folder.Close()); err != nil {
		return fmt.Errorf("sync the folder: %w", err)
	}
	return nil
}

// Read reads a file back by its hash.
func (f Files) Read(sha256 string) ([]byte, error) {
	data, err := os.ReadFile(f.path(sha256))
	if errors.Is(err, fs.ErrNotExist) {
		return nil, fmt.Errorf("%s file %s is missing from the data folder; restore it from a backup: %w", f.what, filepath.Base(sha256), err)
	}
	return data, err
}

// Has reports whether a file is there.
func (f Files) Has(sha256 string) bool {
	_, err := os.Stat(f.path(sha256))
	return err == nil
}

// Names are the names of the files on disk; files of other names are not ours.
func (f Files) Names() ([]string, error) {
	files, err := os.ReadDir(f.dir())
	if err != nil {
		return nil, fmt.Errorf("list the %s files: %w", f.what, err)
	}
	var out []string
	for _, e := range files {
		if hashName.MatchString(e.Name()) {
			out = append(out, e.Name())
		}
	}
	return out, nil
}

// Remove removes a file.
func (f Files) Remove(sha256 string) error {
	if err := os.Remove(f.path(sha256)); err != nil {
		return fmt.Errorf("remove a %s file: %w", f.what, err)
	}
	return nil
}

// Staged are files of an import that is not verified yet; they lie apart from those of the
// record.
type Staged struct {
	files Files
	dir   string
	names map[string]bool
}

// Stage makes room for the files of an import.
func (f Files) Stage() (*Staged, error) {
	if f.store.ReadOnly() {
		return nil, bench.ErrReadOnly
	}
	dir, err := os.MkdirTemp(f.store.TempDir(), "import-*")
	if err != nil {
		return nil, fmt.Errorf("make room for %s files: %w", f.what, err)
	}
	return &Staged{files: f, dir: dir, names: map[string]bool{}}, nil
}

// Add puts a file aside under its content hash, on disk before it returns.
func (m *Staged) Add(sha256 string, data []byte) error {
	m.names[sha256] = true
	file, err := os.OpenFile(m.file(sha256), os.O_CREATE|os.O_TRUNC|os.O_WRONLY, ownerFile)
	if err != nil {
		return fmt.Errorf("put a %s file aside: %w", m.files.what, err)
	}
	_, err = file.Write(data)
	if err := errors.Join(err, file.Sync(), file.Close()); err != nil {
		return fmt.Errorf("put a %s file aside: %w", m.files.what, err)
	}
	return nil
}

func (m *Staged) file(sha256 string) string { return filepath.Join(m.dir, filepath.Base(sha256)) }

// Holds reports whether a file was put aside.
func (m *Staged) Holds(sha256 string) bool { return m.names[sha256] }

// Keep makes them files of the record.
func (m *Staged) Keep() error {
	for name := range m.names {
		target := m.files.path(name)
		if _, err := os.Stat(target); err == nil {
			continue
		}
		if err := os.Rename(m.file(name), target); err != nil {
			return fmt.Errorf("keep a %s file: %w", m.files.what, err)
		}
	}
	return syncFolder(m.files.dir())
}

// Drop clears what was put aside.
func (m *Staged) Drop() error { return os.RemoveAll(m.dir) }
