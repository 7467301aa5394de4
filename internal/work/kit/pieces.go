package kit

import (
	"context"
	"errors"
	"fmt"
	"log/slog"
	"math"
	"slices"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/core/mesh"
	"ojime/internal/core/plan"
	"ojime/internal/core/quantity"
	"ojime/internal/store"
	"ojime/internal/work/task"
)

var pieceEntry = task.Entry[bench.Piece]{Table: "piece",
	Head: func(p *bench.Piece) task.Head {
		return task.Head{ID: &p.ID, Code: &p.Code, Version: &p.Version, CreatedMS: &p.CreatedMS}
	},
	Get: (*store.Tx).Piece, Put: (*store.Tx).SavePiece}

// PieceCard is a piece with what is measured on it.
type PieceCard struct {
	Piece    bench.Piece     `json:"piece"`
	Features []bench.Feature `json:"features"`
	// FeaturesVersion changes with any of the features.
	FeaturesVersion string `json:"features_version"`
	Problem         string `json:"problem"`
}

// pieceCard is a piece with those of its features that are measured.
func pieceCard(p bench.Piece, features []bench.Feature) PieceCard {
	card := PieceCard{Piece: p, Features: []bench.Feature{}, Problem: problemOf(nil, p)}
	for _, f := range features {
		if f.PieceID == p.ID && f.RetiredMS == nil {
			card.Features = append(card.Features, f)
		}
	}
	card.FeaturesVersion = bench.VersionOf(card.Features)
	return card
}

func namesOf(features []bench.Feature) string {
	names := []string{}
	for _, f := range features {
		names = append(names, f.Name)
	}
	if len(names) == 0 {
		return "nothing"
	}
	return strings.Join(names, ", ")
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
	File                     MeshFile
	Coupon                   bench.CouponChoice
	Features                 []bench.Feature
	// Kind is what sort of model it is; what is looked at on all of that kind is looked at on it.
	Kind string
}

// ImportPiece keeps a mesh and what it is: its facts, how hard it is to print,
// and what it covers of a plate. What is wrong with the file is an error of
// field file.
func (w *Tasks) ImportPiece(ctx context.Context, in NewPiece, report task.Report) (card PieceCard, err error) {
	if in.Name == "" {
		return PieceCard{}, quantity.Errorf("name", "is missing; name the piece as you call it")
	}
	if err := bench.CheckKind(in.Kind); err != nil {
		return PieceCard{}, err
	}
	staged, err := w.Store.Meshes().Stage()
	if err != nil {
		return PieceCard{}, err
	}
	defer func() { err = errors.Join(err, staged.Drop()) }()
	p, err := task.HeavilyFor(ctx, w.Base, report, in.File.Size, func() (bench.Piece, error) {
		m, sum, err := in.File.putAside(staged)
		if err != nil {
			return bench.Piece{}, err
		}
		p, err := describe(ctx, m, report)
		p.MeshSHA256 = sum
		return p, err
	})
	if err != nil {
		return PieceCard{}, err
	}
	if err := staged.Keep(); err != nil {
		return PieceCard{}, err
	}
	p.Name, p.Revision, p.FileName, p.SupportPct, p.Coupon, p.Kind = in.Name, in.Revision, in.FileName, in.SupportPct, in.Coupon, strings.TrimSpace(in.Kind)
	return task.Keep(ctx, w.Base, func(t *store.Tx) (PieceCard, error) {
		p, err := task.Put(w.Base, t, pieceEntry, p)
		if err != nil {
			return PieceCard{}, err
		}
		looked, err := looksAt(t, p.Kind, in.Features)
		if err != nil {
			return PieceCard{}, err
		}
		return w.putFeatures(t, p, append(in.Features, looked...))
	})
}

// looksAt are the checkpoints of a kind of piece that are not among features.
func looksAt(t *store.Tx, kind string, features []bench.Feature) ([]bench.Feature, error) {
	lists, err := t.Checklists()
	for _, l := range lists {
		if bench.SameKind(l.Kind, kind) {
			return l.Beside(features), err
		}
	}
	return nil, err
}

// SaveKind says what sort of model a piece is. What is looked at on it stays as it is: the checkpoints
// of the kind are taken over where someone asks for them.
func (w *Tasks) SaveKind(ctx context.Context, pieceID string, version int64, kind string) (PieceCard, error) {
	if err := bench.CheckKind(kind); err != nil {
		return PieceCard{}, err
	}
	return task.Keep(ctx, w.Base, func(t *store.Tx) (PieceCard, error) {
		p, err := t.Piece(pieceID)
		if err != nil {
			return PieceCard{}, err
		}
		p.Version, p.Kind = version, strings.TrimSpace(kind)
		if p, err = task.Put(w.Base, t, pieceEntry, p); err != nil {
			return PieceCard{}, err
		}
		features, err := t.FeaturesOfPiece(pieceID)
		return pieceCard(p, features), err
	})
}

// factsLayerUM is the layer height at which a piece's volume is taken.
const factsLayerUM = 50

// describe says what a mesh is.
func describe(ctx context.Context, m *mesh.Mesh, report task.Report) (bench.Piece, error) {
	size := mesh.Size(m.Triangles)
	layerUM := math.Max(factsLayerUM, size[2]) // at most a thousand layers
	profile, err := mesh.Profile(m, layerUM, report.Progress(ctx, "slicing"))
	if err != nil {
		return bench.Piece{}, tangled(err)
	}
	difficulty, err := mesh.Judge(m, report.Progress(ctx, "judging"))
	if err != nil {
		return bench.Piece{}, tangled(err)
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
func (w *Tasks) Survey(ctx context.Context) error {
	pieces, err := task.ReadList(ctx, w.Base, (*store.Tx).Pieces)
	if err != nil {
		return err
	}
	for _, p := range pieces {
		if p.Geometry.Footprint != nil {
			continue
		}
		m, err := w.readMesh(p)
		if err != nil {
			slog.Warn("a piece could not be surveyed", "piece", p.Code, "cause", err)
			continue // its picture is missing, not the record
		}
		found, err := describe(ctx, m, nil)
		if err != nil {
			return fmt.Errorf("survey piece %s: %w", p.Code, err)
		}
		p.Geometry, p.VolumeML, p.OutlineMM2, p.MeshWarnings = found.Geometry, found.VolumeML, found.OutlineMM2, found.MeshWarnings
		if _, err := task.Save(ctx, w.Base, pieceEntry, p); err != nil {
			return fmt.Errorf("survey piece %s: %w", p.Code, err)
		}
	}
	return nil
}

// SaveAllowances changes what a piece needs beyond itself, and estimates what
// hollowing saves.
func (w *Tasks) SaveAllowances(ctx context.Context, pieceID string, a Allowances, report task.Report) (PieceCard, error) {
	p, err := task.ReadOne(ctx, w.Base, pieceID, (*store.Tx).Piece)
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
	return task.Keep(ctx, w.Base, func(t *store.Tx) (PieceCard, error) {
		p, err := task.Put(w.Base, t, pieceEntry, p)
		if err != nil {
			return PieceCard{}, err
		}
		features, err := t.FeaturesOfPiece(pieceID)
		return pieceCard(p, features), err
	})
}

// withHollow names the field as the form does.
func withHollow(err error) error {
	var field *quantity.FieldError
	if errors.As(err, &field) && field.Path == "wall_mm" {
		return quantity.Errorf("hollow_wall_mm", "%s", field.Message)
	}
	return err
}

// FileStem makes a file name of a name.
func FileStem(name string) string {
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
func (w *Tasks) Pieces(ctx context.Context) (out []PieceCard, err error) {
	err = w.Store.Read(ctx, func(t *store.Tx) error {
		pieces, err := t.Pieces()
		if err != nil {
			return err
		}
		features, err := t.Features()
		if err != nil {
			return err
		}
		for _, p := range pieces {
			out = append(out, pieceCard(p, features))
		}
		return nil
	})
	return out, err
}

// SaveFeatures says what is measured on a piece, in order. Features left out
// are retired, not deleted: readings may rest on them. One that was read keeps
// its nominal; a new size is a new feature. version is that of the features which
// these were made against.
func (w *Tasks) SaveFeatures(ctx context.Context, pieceID, version string, features []bench.Feature) (PieceCard, error) {
	for i, f := range features {
		if err := f.Check(fmt.Sprintf("features[%d].", i)); err != nil {
			return PieceCard{}, err
		}
	}
	return task.Keep(ctx, w.Base, func(t *store.Tx) (PieceCard, error) {
		p, err := t.Piece(pieceID)
		if err != nil {
			return PieceCard{}, err
		}
		now, err := t.FeaturesOfPiece(pieceID)
		if err != nil {
			return PieceCard{}, err
		}
		if card := pieceCard(p, now); card.FeaturesVersion != version {
			return PieceCard{}, &bench.StaleError{Changed: []string{"what is measured on " + p.Name + " is now " + namesOf(card.Features)}}
		}
		return w.putFeatures(t, p, features)
	})
}

// AddFeatureIn measures one thing more on a piece, within a transaction.
func (w *Tasks) AddFeatureIn(t *store.Tx, pieceID string, f bench.Feature) error {
	p, err := t.Piece(pieceID)
	if err != nil {
		return err
	}
	now, err := t.FeaturesOfPiece(pieceID)
	if err != nil {
		return err
	}
	counting := slices.DeleteFunc(now, func(f bench.Feature) bool { return f.RetiredMS != nil })
	_, err = w.putFeatures(t, p, append(counting, f))
	return err
}

// putFeatures makes these the features of a piece that count.
func (w *Tasks) putFeatures(t *store.Tx, p bench.Piece, features []bench.Feature) (PieceCard, error) {
	var out PieceCard
	before, err := t.FeaturesOfPiece(p.ID)
	if err != nil {
		return out, err
	}
	kept := map[string]bool{}
	for i, f := range features {
		if f.ID != "" {
			old, err := t.Feature(f.ID)
			if err != nil {
				return out, err
			}
			if old.PieceID != p.ID {
				return out, quantity.Errorf(fmt.Sprintf("features[%d].id", i), "belongs to another piece")
			}
		}
		if f.ID == "" || meaningChanged(before, f) {
			if f.ID, err = w.NewID(); err != nil {
				return out, err
			}
		}
		f.PieceID, f.Position, f.RetiredMS = p.ID, int64(i), nil
		kept[f.ID] = true
		if err := t.SaveFeature(f); err != nil {
			return out, err
		}
	}
	for _, f := range before {
		if !kept[f.ID] && f.RetiredMS == nil {
			f.RetiredMS = quantity.Ptr(w.NowMS())
			if err := t.SaveFeature(f); err != nil {
				return out, err
			}
		}
	}
	after, err := t.FeaturesOfPiece(p.ID)
	return pieceCard(p, after), err
}

// meaningChanged reports whether readings of the feature would mean something
// else after the change.
func meaningChanged(before []bench.Feature, f bench.Feature) bool {
	for _, old := range before {
		if old.ID == f.ID {
			return old.Kind != f.Kind || quantity.Or(old.NominalMM, 0) != quantity.Or(f.NominalMM, 0) ||
				quantity.Or(old.Axis, "") != quantity.Or(f.Axis, "") || quantity.Or(old.Face, "") != quantity.Or(f.Face, "")
		}
	}
	return false
}

// MeshFile reads the mesh of a piece back as it was imported.
func (w *Tasks) MeshFile(ctx context.Context, pieceID string) (name string, data []byte, err error) {
	p, err := task.ReadOne(ctx, w.Base, pieceID, (*store.Tx).Piece)
	if err != nil {
		return "", nil, err
	}
	data, err = w.Store.Meshes().Read(p.MeshSHA256)
	return p.FileName, data, err
}
