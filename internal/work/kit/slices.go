package kit

import (
	"context"
	"errors"
	"fmt"
	"math"
	"sync"

	"ojime/internal/bench"
	"ojime/internal/core/coupon"
	"ojime/internal/core/mesh"
	"ojime/internal/core/quantity"
	"ojime/internal/store"
	"ojime/internal/work/task"
)

// sliceCache remembers the slices of meshes, by content and layer height: they take
// up to a second to cut and never change.
type sliceCache struct {
	mu     sync.Mutex
	layers map[sliceKey][]mesh.Layer
}

type sliceKey struct {
	sha256  string
	layerUM float64
}

// mostRemembered bounds what is kept: some megabytes.
const mostRemembered = 64

func (w *Tasks) readMesh(p bench.Piece) (*mesh.Mesh, error) {
	data, err := w.Store.Meshes().Read(p.MeshSHA256)
	if err != nil {
		return nil, fmt.Errorf("piece %s: %w", p.Code, err)
	}
	m, err := mesh.Read(data)
	if err != nil {
		return nil, fmt.Errorf("piece %s: its mesh file is damaged: %w", p.Code, err)
	}
	return m, nil
}

// Slices are the layers of a piece at a layer height and scale, areas in mm²
// and outlines in mm at that scale.
func (w *Tasks) Slices(ctx context.Context, p bench.Piece, layerUM, scale float64) ([]mesh.Layer, error) {
	key := sliceKey{p.MeshSHA256, layerUM / scale}
	w.cache.mu.Lock()
	layers, known := w.cache.layers[key]
	w.cache.mu.Unlock()
	if !known {
		var err error
		if !w.Store.Meshes().Has(p.MeshSHA256) {
			return standIn(p, layerUM, scale), nil
		}
		if layers, err = task.Heavily(ctx, w.Base, nil, func() ([]mesh.Layer, error) { return w.cut(ctx, p, key.layerUM) }); err != nil {
			return nil, err
		}
		w.cache.remember(key, layers)
	}
	if scale == 1 {
		return layers, nil
	}
	out := make([]mesh.Layer, len(layers))
	for i, l := range layers {
		out[i] = mesh.Layer{AreaMM2: l.AreaMM2 * scale * scale, PerimeterMM: l.PerimeterMM * scale}
	}
	return out, nil
}

// standIn are the layers of a plain block of a piece's volume, height and outline,
// for a piece whose mesh file is missing: what is counted over all layers stays
// right, what one layer holds does not.
func standIn(p bench.Piece, layerUM, scale float64) []mesh.Layer {
	out := make([]mesh.Layer, int(mesh.LayerCount(p.SizeZMM*scale, layerUM)))
	height := math.Max(p.SizeZMM*scale, layerUM/1000)
	for i := range out {
		out[i] = mesh.Layer{AreaMM2: p.VolumeML * 1000 * scale * scale * scale / height, PerimeterMM: p.OutlineMM2 * scale * scale / height}
	}
	return out
}

func (w *Tasks) cut(ctx context.Context, p bench.Piece, layerUM float64) ([]mesh.Layer, error) {
	m, err := w.readMesh(p)
	if err != nil {
		return nil, err
	}
	s, err := mesh.NewSlicer(m.Triangles, layerUM)
	if err != nil {
		return nil, err
	}
	layers, err := s.Layers(task.Report(nil).Progress(ctx, "slicing"))
	return layers, tangled(err)
}

// tangled names the field of a file that is too much work.
func tangled(err error) error {
	if errors.Is(err, mesh.ErrTangled) {
		return quantity.Errorf("file", "%v", err)
	}
	return err
}

func (s *sliceCache) remember(key sliceKey, layers []mesh.Layer) {
	s.mu.Lock()
	defer s.mu.Unlock()
	if len(s.layers) >= mostRemembered {
		clear(s.layers)
	}
	if s.layers == nil {
		s.layers = map[sliceKey][]mesh.Layer{}
	}
	s.layers[key] = layers
}

// Slice is one layer of a piece as loops, and its numbers. LayerMM is where it
// is cut, from the underside.
type Slice struct {
	Layer   int64       `json:"layer"`
	Layers  int64       `json:"layers"`
	LayerMM float64     `json:"layer_mm"`
	LayerUM float64     `json:"layer_um"`
	MinMM   [2]float64  `json:"min_mm"`
	SizeMM  [2]float64  `json:"size_mm"`
	Loops   []mesh.Loop `json:"loops"`
	Facts   mesh.Layer  `json:"facts"`
}

// SliceOf cuts one layer of a piece, counted from 0.
func (w *Tasks) SliceOf(ctx context.Context, pieceID string, layerUM float64, layer int64) (Slice, error) {
	p, err := task.ReadOne(ctx, w.Base, pieceID, pieceEntry.Get)
	if err != nil {
		return Slice{}, err
	}
	return task.Heavily(ctx, w.Base, nil, func() (Slice, error) { return w.sliceOf(p, layerUM, layer) })
}

func (w *Tasks) sliceOf(p bench.Piece, layerUM float64, layer int64) (Slice, error) {
	m, err := w.readMesh(p)
	if err != nil {
		return Slice{}, err
	}
	out := Slice{Layer: layer, LayerUM: layerUM, SizeMM: [2]float64{p.SizeXMM, p.SizeYMM}}
	cut, err := mesh.OutlineOf(m, layerUM, layer)
	if err != nil {
		return Slice{}, tangled(err)
	}
	out.Loops, out.LayerMM, out.Layers, out.Facts = cut.Loops, cut.AtMM, cut.Layers, cut.Facts
	bounds := mesh.BoundsOf(m.Triangles)
	out.MinMM = [2]float64{bounds.Min[0], bounds.Min[1]}
	return out, nil
}

// mostShown is how many triangles a view on the screen gets.
const mostShown = 250_000

// ViewMesh is a piece as a binary STL that is small enough to look at.
func (w *Tasks) ViewMesh(ctx context.Context, pieceID string) ([]byte, error) {
	p, err := task.ReadOne(ctx, w.Base, pieceID, pieceEntry.Get)
	if err != nil {
		return nil, err
	}
	return task.Heavily(ctx, w.Base, nil, func() ([]byte, error) {
		m, err := w.readMesh(p)
		if err != nil {
			return nil, err
		}
		return mesh.WriteSTL(mesh.Reduced(m.Triangles, mostShown)), nil
	})
}

// PieceMesh is the mesh of a piece as STL or 3MF; a numbered coupon carries
// the number asked for.
func (w *Tasks) PieceMesh(ctx context.Context, pieceID, format string, number int64) (name string, data []byte, err error) {
	p, err := task.ReadOne(ctx, w.Base, pieceID, pieceEntry.Get)
	if err != nil {
		return "", nil, err
	}
	name = FileStem(p.Name)
	if p.Coupon.Params != nil && number > 0 {
		name = fmt.Sprintf("%s-%d", name, number)
	}
	data, err = task.Heavily(ctx, w.Base, nil, func() ([]byte, error) {
		triangles, err := w.Numbered(p, &number)
		if err != nil || format != "3mf" {
			return mesh.WriteSTL(triangles), err
		}
		return mesh.Write3MF([]mesh.Object{{Name: p.Name, Triangles: triangles}}, []mesh.Item{{Pose: mesh.Pose{Scale: 1}}})
	})
	return name + "." + format, data, err
}

// Numbered is the mesh of a piece; a coupon of our own is made anew with the
// number it is to carry.
func (w *Tasks) Numbered(p bench.Piece, number *int64) ([]mesh.Triangle, error) {
	if p.Coupon.Params == nil || number == nil || *number == 0 {
		m, err := w.readMesh(p)
		if err != nil {
			return nil, err
		}
		return m.Triangles, nil
	}
	params := *p.Coupon.Params
	params.Number = *number
	made, err := coupon.Make(params)
	if err != nil {
		return nil, task.WithPrefix("coupon.", err)
	}
	return made.Triangles, nil
}

// HollowPiece estimates the shell that hollowing would leave of a piece.
func (w *Tasks) HollowPiece(ctx context.Context, pieceID string, wallMM float64, report task.Report) (mesh.HollowResult, error) {
	p, err := task.ReadOne(ctx, w.Base, pieceID, pieceEntry.Get)
	if err != nil {
		return mesh.HollowResult{}, err
	}
	return task.Heavily(ctx, w.Base, report, func() (mesh.HollowResult, error) {
		m, err := w.readMesh(p)
		if err != nil {
			return mesh.HollowResult{}, err
		}
		out, err := mesh.Hollow(m, wallMM, report.Progress(ctx, "hollowing"))
		return out, tangled(err)
	})
}

// MeshPreview is a mesh before it is kept: what it is, and how it looks.
type MeshPreview struct {
	Piece   bench.Piece `json:"piece"`
	Picture []byte      `json:"picture_png" contentEncoding:"base64"`
	// Known is the piece on record that came from this very file, by code and name; empty for
	// none.
	Known string `json:"known"`
}

// InspectMesh reads and judges a mesh and stores nothing. What is wrong with
// the file is an error of field file.
func (w *Tasks) InspectMesh(ctx context.Context, file MeshFile, report task.Report) (out MeshPreview, err error) {
	return task.HeavilyFor(ctx, w.Base, report, file.Size, func() (out MeshPreview, err error) {
		m, sum, err := file.hashed()
		if err != nil {
			return out, err
		}
		if out.Known, err = w.pieceOfFile(ctx, sum); err != nil {
			return out, err
		}
		if out.Piece, err = describe(ctx, m, report); err != nil {
			return out, err
		}
		out.Picture, err = PNG(mesh.Picture(m.Triangles, pictureSize))
		return out, err
	})
}

// pieceOfFile names the first piece that came from a file, by the file's hash.
func (w *Tasks) pieceOfFile(ctx context.Context, sum string) (known string, err error) {
	err = w.Store.Read(ctx, func(t *store.Tx) error {
		pieces, err := t.Pieces()
		for _, p := range pieces {
			if p.MeshSHA256 == sum {
				known = p.Code + " " + p.Name
				return nil
			}
		}
		return err
	})
	return known, err
}

// pictureSize is the width and height of a still view in its own pixels.
const pictureSize = 480

// MeshProfile measures and slices an uploaded mesh and stores nothing.
func (w *Tasks) MeshProfile(ctx context.Context, file MeshFile, layerUM float64, report task.Report) (mesh.ProfileResult, error) {
	return task.HeavilyFor(ctx, w.Base, report, file.Size, func() (mesh.ProfileResult, error) {
		m, err := file.decoded()
		if err != nil {
			return mesh.ProfileResult{}, err
		}
		out, err := mesh.Profile(m, layerUM, report.Progress(ctx, "slicing"))
		return out, tangled(err)
	})
}
