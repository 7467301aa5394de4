package tables

import (
	"fmt"
	"slices"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/say"
	"ojime/internal/store"
)

// featureRow is what is measured on one or several pieces.
type featureRow struct {
	bench.Feature
	pieces   string
	pieceIDs []string
}

// features is a thing that is measured a row, on as many pieces as it names.
var features = kind[featureRow]{
	name: "features", title: "What is measured on pieces", each: "feature",
	about: "A size, a ladder or a checkpoint a row. A row that names several pieces, with semicolons between them, or all pieces, is measured on each.",
	columns: []column[featureRow]{
		text("piece", "Piece or pieces", func(r *featureRow) *string { return &r.pieces }).needed().carried(),
		choice("kind", "Kind", func(r *featureRow) *string { return &r.Kind }, "dimension", "pins", "gaps", "checkpoint").needed().carried(),
		text("name", "Name", func(r *featureRow) *string { return &r.Name }).needed(),
		maybe("nominal_mm", "Nominal", func(r *featureRow) **float64 { return &r.NominalMM }),
		maybeChoice("axis", "Axis", func(r *featureRow) **string { return &r.Axis }, "x", "y", "z"),
		maybeChoice("face", "Face", func(r *featureRow) **string { return &r.Face }, "outer", "inner").carried(),
		sizes("rungs_mm", "Sizes of a ladder", func(r *featureRow) *bench.Sizes { return &r.RungsMM }),
		text("place", "Where", func(r *featureRow) *string { return &r.Place }),
		text("shape", "Shape", func(r *featureRow) *string { return &r.Shape }).more(),
	},
	fresh:    func() featureRow { return featureRow{} },
	onRecord: featuresOnRecord,
	begin: func(w *Tasks, t *store.Tx, _ bool) (batch[featureRow], error) {
		known, err := featuresOnRecord(w, t)
		if err != nil {
			return nil, err
		}
		pieces, err := piecesNamed(t)
		return &featureRows{w, pieces, known}, err
	},
	offered: func(t *store.Tx) (map[string][]string, error) {
		pieces, err := piecesNamed(t)
		return map[string][]string{"piece": append([]string{allPieces}, offers(pieces)...)}, err
	},
}

// allPieces stands for every piece on record.
const allPieces = "all pieces"

// mostFeatures bounds what is measured on a piece.
const mostFeatures = 300

func featuresOnRecord(_ *Tasks, t *store.Tx) ([]featureRow, error) {
	list, err := t.Features()
	if err != nil {
		return nil, err
	}
	pieces, err := piecesNamed(t)
	out := []featureRow{}
	for _, f := range list {
		if f.RetiredMS == nil {
			out = append(out, featureRow{f, nameOf(f.PieceID, pieces), []string{f.PieceID}})
		}
	}
	return out, err
}

// featureRows are what is measured on record and by the rows before.
type featureRows struct {
	w      *Tasks
	pieces []named
	known  []featureRow
}

func (b *featureRows) look(r *featureRow, filled map[string]bool) (fate, says string, err error) {
	names, cells := []string{}, strings.Split(r.pieces, ";")
	if strings.EqualFold(r.pieces, allPieces) {
		cells = nil
		for _, p := range b.pieces {
			cells = append(cells, p.code)
		}
	}
	for _, cell := range cells {
		if cell = strings.TrimSpace(cell); cell == "" {
			continue
		}
		id, err := find(cell, "piece", b.pieces)
		if err != nil {
			return "", "", inColumn("piece", err)
		}
		if slices.Contains(r.pieceIDs, id) {
			continue
		}
		stands, err := b.measured(id, *r, filled)
		if err != nil {
			return "", "", err
		}
		if !stands {
			r.pieceIDs = append(r.pieceIDs, id)
			names = append(names, nameOf(id, b.pieces))
		}
	}
	if len(names) == 0 {
		return Same, "on record", nil
	}
	if err := r.Check(""); err != nil {
		return "", "", err
	}
	if beyond := bench.Beyond(r.Feature); len(beyond) > 0 {
		return "", "", beyond[0]
	}
	b.known = append(b.known, *r)
	return Kept, fmt.Sprintf("%s on %s", r.Kind, say.List(names)), nil
}

// measured reports whether a piece has such a feature; one of the same name that is another is
// an error, and so is one more than a piece may have.
func (b *featureRows) measured(pieceID string, r featureRow, filled map[string]bool) (bool, error) {
	count := 0
	for _, k := range b.known {
		if !slices.Contains(k.pieceIDs, pieceID) {
			continue
		}
		count++
		if !strings.EqualFold(k.Name, r.Name) {
			continue
		}
		if labels := differing(features.columns[1:], filled, r, k); len(labels) > 0 {
			return false, inColumn("name", fmt.Errorf("%s of %s stands on record with another %s; change it on the piece's page, or give this one another name", k.Name, nameOf(pieceID, b.pieces), say.List(labels)))
		}
		return true, nil
	}
	if count >= mostFeatures {
		return false, inColumn("piece", fmt.Errorf("%s has %d features; no piece has more", nameOf(pieceID, b.pieces), mostFeatures))
	}
	return false, nil
}

func (b *featureRows) keep(t *store.Tx, r featureRow) error {
	for _, id := range r.pieceIDs {
		if err := b.w.kit.AddFeatureIn(t, id, r.Feature); err != nil {
			return err
		}
	}
	return nil
}
