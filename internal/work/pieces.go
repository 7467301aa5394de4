package work

import (
	"context"
	"crypto/sha256"
	"encoding/hex"
	"errors"
	"fmt"
	"math"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/core/mesh"
	"ojime/internal/core/plan"
	"ojime/internal/core/quantity"
	"ojime/internal/store"
)

var pieceEntry = entry[bench.Piece]{"piece",
	func(p *bench.Piece) head { return head{&p.ID, &p.Code, &p.Version, &p.CreatedMS} },
	(*store.Tx).Piece, (*store.Tx).SavePiece}

// PieceCard is a piece with what is measured on it.
type PieceCard struct {
	Piece    bench.Piece     `json:"piece"`
	Features []bench.Feature `json:"features"`
}

// Allowances are what a print needs beyond the piece itself, for one copy at
// full size: supports in per cent of its solid and in ml, a raft, and the wall
// it is hollowed to. FinestMM and ReliefMM are the finest detail on it and how
// deep that stands, as the reviewer knows them; slices cannot tell.
type Allowances struct {
	Version      int64    `json:"version"`
	SupportPct   float64  `json:"support_pct" minimum:"0"`
	SupportML    float64  `json:"support_ml" minimum:"0"`
	RaftML       float64  `json:"raft_ml" minimum:"0"`
	HollowWallMM *float64 `json:"hollow_wall_mm" required:"false" exclusiveMinimum:"0"`
	FinestMM     *float64 `json:"finest_mm" required:"false" exclusiveMinimum:"0"`
	ReliefMM     *float64 `json:"relief_mm" required:"false" exclusiveMinimum:"0"`
}

// NewPiece is a piece as it is imported.
type NewPiece struct {
	Name, Revision, FileName string
	SupportPct               float64
	Data                     []byte
	Coupon                   bench.CouponChoice
}

// ImportPiece keeps a mesh and what it is: its facts, how hard it is to print,
// and what it covers of a plate. What is wrong with the file is an error of
// field file.
func (w *Work) ImportPiece(ctx context.Context, in NewPiece, report Report) (PieceCard, error) {
	if in.Name == "" {
		return PieceCard{}, quantity.Errorf("name", "is missing; name the piece as you call it")
	}
	p, err := describe(ctx, in.Data, report)
	if err != nil {
		return PieceCard{}, err
	}
	sum := sha256.Sum256(in.Data)
	p.MeshSHA256 = hex.EncodeToString(sum[:])
	p.Name, p.Revision, p.FileName, p.SupportPct, p.Coupon = in.Name, in.Revision, in.FileName, in.SupportPct, in.Coupon
	if err := w.store.SaveMesh(p.MeshSHA256, in.Data); err != nil {
		return PieceCard{}, err
	}
	p, err = save(ctx, w, pieceEntry, p)
	return PieceCard{Piece: p, Features: []bench.Feature{}}, err
}

// factsLayerUM is the layer height at which a piece's volume is taken.
const factsLayerUM = 50

// describe reads a mesh and says what it is.
func describe(ctx context.Context, data []byte, report Report) (bench.Piece, error) {
	m, err := mesh.Read(data)
	if err != nil {
		return bench.Piece{}, quantity.Errorf("file", "%v", err)
	}
	size := mesh.Size(m.Triangles)
	layerUM := math.Max(factsLayerUM, size[2]) // at most a thousand layers
	profile, err := mesh.Profile(m, layerUM, report.progress(ctx, "slicing"))
	if err != nil {
		return bench.Piece{}, err
	}
	difficulty, err := mesh.Judge(m, report.progress(ctx, "judging"))
	if err != nil {
		return bench.Piece{}, err
	}
	footprint := plan.FootprintOf(m)
	volume := math.Abs(profile.SignedVolumeML)
	if profile.Has("shells_overlap") {
		volume = profile.SliceVolumeML
	}
	var outline float64
	for _, l := range profile.Layers {
		outline += l.PerimeterMM * layerUM / 1000
	}
	notes := bench.Notes{}
	for _, warning := range profile.Warnings.Warnings {
		notes = append(notes, warning.Message)
	}
	return bench.Piece{
		Format: profile.Format, Triangles: profile.Triangles, SizeXMM: size[0], SizeYMM: size[1], SizeZMM: size[2],
		SurfaceMM2: profile.SurfaceMM2, VolumeML: volume, Shells: profile.Shells, OpenEdges: profile.OpenEdges,
		NonmanifoldEdges: profile.NonmanifoldEdges, MeshWarnings: notes, OutlineMM2: outline,
		Geometry: bench.Geometry{Difficulty: &difficulty, Footprint: &footprint},
	}, nil
}

// Survey fills in what older records do not hold of their pieces: how hard
// they are and what they cover.
func (w *Work) Survey(ctx context.Context) error {
	pieces, err := readList(ctx, w, (*store.Tx).Pieces)
	if err != nil {
		return err
	}
	for _, p := range pieces {
		if p.Geometry.Footprint != nil {
			continue
		}
		data, err := w.store.Mesh(p.MeshSHA256)
		if err != nil {
			return fmt.Errorf("survey piece %s: %w", p.Code, err)
		}
		found, err := describe(ctx, data, nil)
		if err != nil {
			return fmt.Errorf("survey piece %s: %w", p.Code, err)
		}
		p.Geometry, p.VolumeML, p.OutlineMM2, p.MeshWarnings = found.Geometry, found.VolumeML, found.OutlineMM2, found.MeshWarnings
		if _, err := save(ctx, w, pieceEntry, p); err != nil {
			return fmt.Errorf("survey piece %s: %w", p.Code, err)
		}
	}
	return nil
}

// SaveAllowances changes what a piece needs beyond itself, and estimates what
// hollowing saves.
func (w *Work) SaveAllowances(ctx context.Context, pieceID string, a Allowances, report Report) (PieceCard, error) {
	p, err := readOne(ctx, w, pieceID, (*store.Tx).Piece)
	if err != nil {
		return PieceCard{}, err
	}
	p.Version, p.SupportPct, p.SupportML, p.RaftML = a.Version, a.SupportPct, a.SupportML, a.RaftML
	p.HollowWallMM, p.HollowML, p.FinestMM, p.ReliefMM = a.HollowWallMM, 0, a.FinestMM, a.ReliefMM
	if a.HollowWallMM != nil {
		h, err := w.HollowPiece(ctx, pieceID, *a.HollowWallMM, report)
		if err != nil {
			return PieceCard{}, withHollow(err)
		}
		p.HollowML = h.CavityML
	}
	if p, err = save(ctx, w, pieceEntry, p); err != nil {
		return PieceCard{}, err
	}
	features, err := readList(ctx, w, func(t *store.Tx) ([]bench.Feature, error) { return t.FeaturesOfPiece(pieceID) })
	return PieceCard{Piece: p, Features: features}, err
}

// withHollow names the field as the form does.
func withHollow(err error) error {
	var field *quantity.FieldError
	if errors.As(err, &field) && field.Path == "wall_mm" {
		return quantity.Errorf("hollow_wall_mm", "%s", field.Message)
	}
	return err
}

// fileStem makes a file name of a name.
func fileStem(name string) string {
	return strings.Trim(strings.Map(func(r rune) rune {
		switch {
		case r >= 'a' && r <= 'z', r >= '0' && r <= '9':
			return r
		case r >= 'A' && r <= 'Z':
			return r - 'A' + 'a'
		}
		return '-'
	}, name), "-")
}

// Pieces lists the pieces with their features.
func (w *Work) Pieces(ctx context.Context) (out []PieceCard, err error) {
	err = w.store.Read(ctx, func(t *store.Tx) error {
		pieces, err := t.Pieces()
		if err != nil {
			return err
		}
		features, err := t.Features()
		if err != nil {
			return err
		}
		for _, p := range pieces {
			card := PieceCard{Piece: p, Features: []bench.Feature{}}
			for _, f := range features {
				if f.PieceID == p.ID && f.RetiredMS == nil {
					card.Features = append(card.Features, f)
				}
			}
			out = append(out, card)
		}
		return nil
	})
	return out, err
}

// SaveFeatures says what is measured on a piece, in order. Features left out
// are retired, not deleted: readings may rest on them. One that was read keeps
// its nominal; a new size is a new feature.
func (w *Work) SaveFeatures(ctx context.Context, pieceID string, features []bench.Feature) (out []bench.Feature, err error) {
	for i, f := range features {
		if err := f.Check(fmt.Sprintf("features[%d].", i)); err != nil {
			return nil, err
		}
	}
	err = w.store.Write(ctx, func(t *store.Tx) error {
		if _, err := t.Piece(pieceID); err != nil {
			return err
		}
		before, err := t.FeaturesOfPiece(pieceID)
		if err != nil {
			return err
		}
		kept := map[string]bool{}
		for i, f := range features {
			if f.ID != "" {
				old, err := t.Feature(f.ID)
				if err != nil {
					return err
				}
				if old.PieceID != pieceID {
					return quantity.Errorf(fmt.Sprintf("features[%d].id", i), "belongs to another piece")
				}
			}
			if f.ID == "" || meaningChanged(before, f) {
				if f.ID, err = w.newID(); err != nil {
					return err
				}
			}
			f.PieceID, f.Position, f.RetiredMS = pieceID, int64(i), nil
			kept[f.ID] = true
			if err := t.SaveFeature(f); err != nil {
				return err
			}
			out = append(out, f)
		}
		for _, f := range before {
			if !kept[f.ID] && f.RetiredMS == nil {
				f.RetiredMS = quantity.Ptr(w.nowMS())
				if err := t.SaveFeature(f); err != nil {
					return err
				}
			}
		}
		return nil
	})
	return out, err
}

// meaningChanged reports whether readings of the feature would mean something
// else after the change.
func meaningChanged(before []bench.Feature, f bench.Feature) bool {
	for _, old := range before {
		if old.ID == f.ID {
			return old.Kind != f.Kind || quantity.Or(old.NominalMM, 0) != quantity.Or(f.NominalMM, 0) ||
				quantity.Or(old.Axis, "") != quantity.Or(f.Axis, "") || quantity.Or(old.Side, "") != quantity.Or(f.Side, "")
		}
	}
	return false
}

// MeshFile reads the mesh of a piece back as it was imported.
func (w *Work) MeshFile(ctx context.Context, pieceID string) (name string, data []byte, err error) {
	p, err := readOne(ctx, w, pieceID, (*store.Tx).Piece)
	if err != nil {
		return "", nil, err
	}
	data, err = w.store.Mesh(p.MeshSHA256)
	return p.FileName, data, err
}

// Check looks for what is wrong with the database and with what it refers to.
func (w *Work) Check(ctx context.Context) ([]string, error) {
	wrong, err := w.store.Check(ctx)
	if err != nil {
		return nil, err
	}
	pieces, err := readList(ctx, w, (*store.Tx).Pieces)
	if err != nil {
		return nil, err
	}
	for _, p := range pieces {
		data, err := w.store.Mesh(p.MeshSHA256)
		if err != nil {
			wrong = append(wrong, fmt.Sprintf("piece %s: %v", p.Code, err))
			continue
		}
		if sum := sha256.Sum256(data); hex.EncodeToString(sum[:]) != p.MeshSHA256 {
			wrong = append(wrong, fmt.Sprintf("piece %s: its mesh file has changed since it was imported", p.Code))
		}
	}
	return wrong, nil
}

// isMissing reports an entry that does not exist.
func isMissing(err error) bool { return errors.Is(err, bench.ErrNotFound) }
