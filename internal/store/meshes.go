package store

import (
	"errors"
	"fmt"
	"io/fs"
	"os"
	"path/filepath"

	"ojime/internal/bench"
)

// SaveMesh keeps a mesh file under its content hash, on disk before it
// returns. The name is the hash alone, so that no name from outside is a path.
func (s *Store) SaveMesh(sha256 string, data []byte) (err error) {
	target := s.meshFile(sha256)
	if _, err := os.Stat(target); err == nil {
		return nil
	}
	file, err := os.CreateTemp(filepath.Dir(target), incoming+"*")
	if err != nil {
		return fmt.Errorf("save mesh: %w", err)
	}
	defer func() {
		if err != nil {
			err = errors.Join(err, os.Remove(file.Name()))
		}
	}()
	_, err = file.Write(data)
	err = errors.Join(err, file.Sync(), file.Close())
	if err != nil {
		return fmt.Errorf("save mesh: %w", err)
	}
	if err := os.Rename(file.Name(), target); err != nil {
		return fmt.Errorf("save mesh: %w", err)
	}
	return syncFolder(filepath.Dir(target))
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

// Mesh reads a mesh file back by its hash.
func (s *Store) Mesh(sha256 string) ([]byte, error) {
	data, err := os.ReadFile(s.meshFile(sha256))
	if errors.Is(err, fs.ErrNotExist) {
		return nil, fmt.Errorf("mesh file %s is missing from the data folder; restore it from a backup: %w", filepath.Base(s.meshFile(sha256)), err)
	}
	return data, err
}

// HasMesh reports whether a mesh file is there.
func (s *Store) HasMesh(sha256 string) bool {
	_, err := os.Stat(s.meshFile(sha256))
	return err == nil
}

func (s *Store) meshFile(sha256 string) string {
	return filepath.Join(s.dir, meshFolder, filepath.Base(sha256))
}

// StagedMeshes are meshes of an import that is not verified yet; they lie apart
// from those of the record.
type StagedMeshes struct {
	store *Store
	dir   string
	names map[string]bool
}

// StageMeshes makes room for the meshes of an import.
func (s *Store) StageMeshes() (*StagedMeshes, error) {
	if s.ReadOnly() {
		return nil, bench.ErrReadOnly
	}
	dir, err := os.MkdirTemp(s.TempDir(), "import-*")
	if err != nil {
		return nil, fmt.Errorf("make room for meshes: %w", err)
	}
	return &StagedMeshes{store: s, dir: dir, names: map[string]bool{}}, nil
}

// Add puts a mesh aside under its content hash, on disk before it returns.
func (m *StagedMeshes) Add(sha256 string, data []byte) error {
	m.names[sha256] = true
	file, err := os.OpenFile(m.file(sha256), os.O_CREATE|os.O_TRUNC|os.O_WRONLY, ownerFile)
	if err != nil {
		return fmt.Errorf("put a mesh aside: %w", err)
	}
	_, err = file.Write(data)
	if err := errors.Join(err, file.Sync(), file.Close()); err != nil {
		return fmt.Errorf("put a mesh aside: %w", err)
	}
	return nil
}

func (m *StagedMeshes) file(sha256 string) string { return filepath.Join(m.dir, filepath.Base(sha256)) }

// Holds reports whether a mesh was put aside.
func (m *StagedMeshes) Holds(sha256 string) bool { return m.names[sha256] }

// Keep makes them meshes of the record.
func (m *StagedMeshes) Keep() error {
	for name := range m.names {
		target := m.store.meshFile(name)
		if _, err := os.Stat(target); err == nil {
			continue
		}
		if err := os.Rename(m.file(name), target); err != nil {
			return fmt.Errorf("keep a mesh: %w", err)
		}
	}
	return syncFolder(filepath.Join(m.store.dir, meshFolder))
}

// Drop clears what was put aside.
func (m *StagedMeshes) Drop() error { return os.RemoveAll(m.dir) }
