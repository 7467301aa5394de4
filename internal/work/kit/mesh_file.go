package kit

import (
	"crypto/sha256"
	"encoding/hex"

	"ojime/internal/core/mesh"
	"ojime/internal/core/quantity"
	"ojime/internal/store"
)

// MeshFile is a mesh file that waits to be read: its bytes come into memory only
// when its turn has come.
type MeshFile struct {
	Size int64
	Read func() ([]byte, error)
}

// MeshBytes is a mesh file that is in memory already.
func MeshBytes(data []byte) MeshFile {
	return MeshFile{Size: int64(len(data)), Read: func() ([]byte, error) { return data, nil }}
}

// mesh reads and decodes the file; what is wrong with it is an error of field
// file.
func (f MeshFile) mesh() (*mesh.Mesh, []byte, error) {
	data, err := f.Read()
	if err != nil {
		return nil, nil, err
	}
	m, err := mesh.Read(data)
	if err != nil {
		return nil, nil, quantity.Errorf("file", "%v", err)
	}
	return m, data, nil
}

// decoded is the mesh alone; its bytes are let go.
func (f MeshFile) decoded() (*mesh.Mesh, error) {
	m, _, err := f.mesh()
	return m, err
}

// hashed is the mesh, and the hash of its file.
func (f MeshFile) hashed() (*mesh.Mesh, string, error) {
	m, data, err := f.mesh()
	return m, hashOf(data), err
}

// hashOf names a file by what is in it.
func hashOf(data []byte) string {
	hash := sha256.Sum256(data)
	return hex.EncodeToString(hash[:])
}

// putAside reads the file, keeps its bytes on disk alone and gives what they are:
// a large mesh and its file together would fill the memory.
func (f MeshFile) putAside(staged *store.Staged) (*mesh.Mesh, string, error) {
	m, data, err := f.mesh()
	if err != nil {
		return nil, "", err
	}
	sum := hashOf(data)
	return m, sum, staged.Add(sum, data)
}
