package work

import (
	"context"
	"crypto/sha256"
	"encoding/hex"
	"sync/atomic"

	"golang.org/x/sync/semaphore"

	"ojime/internal/core/mesh"
	"ojime/internal/core/quantity"
	"ojime/internal/store"
)

// mostHeavy is how many heavy computations (slicing, hollowing, drawing) run at
// a time, so that they leave room and memory for the pages. A mesh file of more
// than largeMesh bytes takes both places.
const (
	mostHeavy = 2
	largeMesh = 64 << 20
)

// lane lets heavy computations through in turn.
type lane struct {
	places  *semaphore.Weighted
	waiting atomic.Int64
}

func newLane() *lane { return &lane{places: semaphore.NewWeighted(mostHeavy)} }

// enter waits for places, and says so. Who goes away while waiting gets the
// context's error.
func (l *lane) enter(ctx context.Context, report Report, places int64) error {
	if l.places.TryAcquire(places) {
		return nil
	}
	if report != nil {
		report("waiting for another task to end", 0)
	}
	l.waiting.Add(1)
	defer l.waiting.Add(-1)
	return l.places.Acquire(ctx, places)
}

// heavily runs a computation in its turn. It must not be called from within
// another one, and compute must not wait for the writer of the record.
func heavily[Out any](ctx context.Context, w *Work, report Report, compute func() (Out, error)) (Out, error) {
	return heavilyFor(ctx, w, report, 0, compute)
}

// heavilyFor is heavily for a mesh file of so many bytes.
func heavilyFor[Out any](ctx context.Context, w *Work, report Report, bytes int64, compute func() (Out, error)) (out Out, err error) {
	places := int64(1)
	if bytes > largeMesh {
		places = mostHeavy
	}
	if err := w.heavy.enter(ctx, report, places); err != nil {
		return out, err
	}
	defer w.heavy.places.Release(places)
	return compute()
}

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

// putAside reads the file, keeps its bytes on disk alone and gives what they are:
// a large mesh and its file together would fill the memory.
func (f MeshFile) putAside(staged *store.StagedMeshes) (*mesh.Mesh, string, error) {
	m, data, err := f.mesh()
	if err != nil {
		return nil, "", err
	}
	hash := sha256.Sum256(data)
	sum := hex.EncodeToString(hash[:])
	return m, sum, staged.Add(sum, data)
}
