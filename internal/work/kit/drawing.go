package kit

import (
	"context"
	"strings"
	"sync"

	"ojime/internal/bench"
	"ojime/internal/core/mesh"
	"ojime/internal/store"
	"ojime/internal/work/task"
)

// FeatureMark is where a size of a piece stands on its drawings: in so many places of the piece,
// none where the mesh has no such size.
type FeatureMark struct {
	FeatureID string     `json:"feature_id"`
	Places    int        `json:"places"`
	Lines     []MarkLine `json:"lines"`
}

// MarkLine is a line on a drawing; its ends are shares of the drawing's side from the upper
// left corner.
type MarkLine struct {
	View  string  `json:"view" enum:"plan,front"`
	FromX float64 `json:"from_x"`
	FromY float64 `json:"from_y"`
	ToX   float64 `json:"to_x"`
	ToY   float64 `json:"to_y"`
}

// spotCache remembers where meshes have their sizes, by content: a large one takes a second to search.
type spotCache struct {
	mu    sync.Mutex
	spots map[spotKey]found
}

type spotKey struct {
	sha256 string
	sought mesh.Sought
}

type found struct {
	spots  []mesh.Spot
	bounds mesh.Bounds
}

// mostSpots bounds what is kept: some hundred kilobytes.
const mostSpots = 4096

// FeatureMarks are the marks of a piece's sizes, in the order of its features. Ladders and
// checkpoints have none, nor has a piece whose mesh is missing.
func (w *Tasks) FeatureMarks(ctx context.Context, pieceID string) ([]FeatureMark, error) {
	var piece bench.Piece
	sizes := []bench.Feature{}
	err := w.Store.Read(ctx, func(t *store.Tx) (err error) {
		if piece, err = t.Piece(pieceID); err != nil {
			return err
		}
		features, err := t.FeaturesOfPiece(pieceID)
		for _, f := range features {
			if f.Kind == "dimension" && f.NominalMM != nil && f.Axis != nil && f.RetiredMS == nil {
				sizes = append(sizes, f)
			}
		}
		return err
	})
	if err != nil || len(sizes) == 0 || !w.Store.Meshes().Has(piece.MeshSHA256) {
		return []FeatureMark{}, err
	}
	places, err := w.spots(ctx, piece, sizes)
	if err != nil {
		return nil, err
	}
	out := make([]FeatureMark, len(sizes))
	for i, f := range sizes {
		out[i] = FeatureMark{FeatureID: f.ID, Places: len(places[i].spots), Lines: places[i].lines(*f.Axis)}
	}
	return out, nil
}

// lines draws a size on the views that do not look along it.
func (f found) lines(axis string) []MarkLine {
	out := []MarkLine{}
	draw := func(view string, from, to [2]float64) {
		out = append(out, MarkLine{view, from[0], from[1], to[0], to[1]})
	}
	for _, s := range f.spots {
		if axis != "z" {
			draw("plan", f.bounds.OnPlan(s.FromMM), f.bounds.OnPlan(s.ToMM))
		}
		if axis != "y" {
			draw("front", f.bounds.OnFront(s.FromMM), f.bounds.OnFront(s.ToMM))
		}
	}
	return out
}

// spots finds sizes on a piece's mesh, which is read only for those not looked for before.
func (w *Tasks) spots(ctx context.Context, p bench.Piece, sizes []bench.Feature) ([]found, error) {
	out := make([]found, len(sizes))
	var missing []int
	var sought []mesh.Sought
	keys := make([]spotKey, len(sizes))
	w.places.mu.Lock()
	for i, f := range sizes {
		keys[i] = spotKey{p.MeshSHA256, mesh.Sought{Axis: strings.Index("xyz", *f.Axis), NominalMM: *f.NominalMM, Hollow: f.Face != nil && *f.Face == "inner"}}
		var known bool
		if out[i], known = w.places.spots[keys[i]]; !known {
			missing, sought = append(missing, i), append(sought, keys[i].sought)
		}
	}
	w.places.mu.Unlock()
	if len(missing) == 0 {
		return out, nil
	}
	looked, err := task.Heavily(ctx, w.Base, nil, func() ([]found, error) {
		m, err := w.readMesh(p)
		if err != nil {
			return nil, err
		}
		spots, err := mesh.Locate(m, sought)
		if err != nil {
			return nil, tangled(err)
		}
		looked, bounds := make([]found, len(spots)), mesh.BoundsOf(m.Triangles)
		for i, s := range spots {
			looked[i] = found{s, bounds}
		}
		return looked, nil
	})
	if err != nil {
		return nil, err
	}
	w.places.mu.Lock()
	defer w.places.mu.Unlock()
	if len(w.places.spots) >= mostSpots || w.places.spots == nil {
		w.places.spots = map[spotKey]found{}
	}
	for i, at := range missing {
		out[at] = looked[i]
		w.places.spots[keys[at]] = looked[i]
	}
	return out, nil
}
