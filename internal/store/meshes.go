package store

import (
	"errors"
	"fmt"
	"io/fs"
	"os"
	"path/filepath"
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

func (s *Store) meshFile(sha256 string) string {
	return filepath.Join(s.dir, meshFolder, filepath.Base(sha256))
}
