package tables

import (
	"slices"
	"strconv"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/core/outcome"
	"ojime/internal/core/quantity"
	"ojime/internal/store"
	"ojime/internal/work/printing"
)

// codeOf is the code of the one of an id, empty for none.
func codeOf(id *string, among []named) string {
	i := slices.IndexFunc(among, func(n named) bool { return id != nil && n.id == *id })
	if i < 0 {
		return ""
	}
	return among[i].code
}

// rowOf is a print on record as a row.
func (b *printRows) rowOf(run bench.Run) (printRow, error) {
	r := printRow{Recording: printing.Recording{Run: run}, started: &run.StartedMS, tookS: run.TookS(),
		machine: nameOf(run.MachineID, b.machines), settings: nameOf(run.ProfileID, b.settings), bottle: codeOf(run.BottleID, b.bottles), plate: codeOf(run.PlateID, b.plates)}
	specimens, err := b.t.SpecimensOfRun(run.ID)
	if err != nil {
		return r, err
	}
	pending, not := 0, []string{}
	for _, s := range specimens {
		i := slices.IndexFunc(r.Pieces, func(p printing.Portion) bool {
			return p.PieceID == s.PieceID && quantity.Equal(quantity.Or(p.ScalePct, 100), s.ScalePct)
		})
		if i < 0 {
			r.Pieces = append(r.Pieces, printing.Portion{PieceID: s.PieceID, ScalePct: quantity.Ptr(s.ScalePct)})
			i = len(r.Pieces) - 1
		}
		r.Pieces[i].Copies++
		if s.Outcome == outcome.Pending {
			pending++
		}
		if s.Outcome != outcome.Whole {
			not = append(not, strconv.FormatInt(s.Copy, 10))
		}
	}
	r.pieces = b.piecesWords(r.Pieces)
	switch {
	case pending == len(specimens) || len(not) == len(specimens):
	case len(not) == 0:
		r.whole = "all"
	default:
		r.whole = "all but " + strings.Join(not, ", ")
	}
	return r, nil
}

func printsOnRecord(w *Tasks, t *store.Tx) ([]printRow, error) {
	b, err := newPrintRows(w, t, false)
	if err != nil {
		return nil, err
	}
	runs, err := t.Runs()
	if err != nil {
		return nil, err
	}
	out := []printRow{}
	for _, run := range runs {
		r, err := b.rowOf(run)
		if err != nil {
			return nil, err
		}
		r.Pieces = nil
		out = append(out, r)
	}
	return out, nil
}
