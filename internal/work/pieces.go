package work

import (
	"context"
	"crypto/sha256"
	"encoding/hex"
	"errors"
	"fmt"
	"math"

	"ojime/internal/bench"
	"ojime/internal/core/mesh"
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

// InspectMesh reads and measures a mesh and stores nothing. What is wrong with
// the file is an error of field file.
func (w *Work) InspectMesh(data []byte) (mesh.Facts, error) {
	m, err := mesh.ReadSTL(data)
	if err != nil {
		return mesh.Facts{}, quantity.Errorf("file", "%v", err)
	}
	return mesh.Measure(m), nil
}

// ImportPiece keeps a mesh and what it is under a name and revision.
func (w *Work) ImportPiece(ctx context.Context, name, revision, fileName string, supportPct float64, data []byte) (PieceCard, error) {
	if name == "" {
		return PieceCard{}, quantity.Errorf("name", "is missing; name the piece as you call it")
	}
	facts, err := w.InspectMesh(data)
	if err != nil {
		return PieceCard{}, err
	}
	sum := sha256.Sum256(data)
	hash, size := hex.EncodeToString(sum[:]), facts.Size()
	var notes bench.Notes
	for _, warning := range facts.Warnings.Warnings {
		notes = append(notes, warning.Message)
	}
	if err := w.store.SaveMesh(hash, data); err != nil {
		return PieceCard{}, err
	}
	p, err := save(ctx, w, pieceEntry, bench.Piece{
		Name: name, Revision: revision, MeshSHA256: hash, FileName: fileName, Format: facts.Format, Triangles: facts.Triangles,
		SizeXMM: size[0], SizeYMM: size[1], SizeZMM: size[2], SurfaceMM2: facts.SurfaceMM2, VolumeML: math.Abs(facts.SignedVolumeML),
		Shells: facts.Shells, OpenEdges: facts.OpenEdges, NonmanifoldEdges: facts.NonmanifoldEdges, MeshWarnings: notes,
		SupportPct: supportPct, OutlineMM2: facts.OutlineMM2,
	})
	return PieceCard{Piece: p, Features: []bench.Feature{}}, err
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
