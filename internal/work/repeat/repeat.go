// Package repeat prints again what was printed before: as it was, or with something changed.
package repeat

import (
	"context"
	"fmt"
	"slices"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/store"
	"ojime/internal/work/kit"
	"ojime/internal/work/printing"
	"ojime/internal/work/task"
)

// Tasks are the tasks of this step on one record.
type Tasks struct {
	*task.Base
	printing *printing.Tasks
}

// New makes them.
func New(base *task.Base, p *printing.Tasks) *Tasks { return &Tasks{base, p} }

// Again is what differs from the print that is made again: its settings, its bottle, how full
// the vat is, and Change, what was changed by hand. What is not given stays as it was, but for
// the fill of the vat, which nobody knows beforehand; an empty BottleID is a bottle that is not known.
type Again struct {
	ProfileID string   `json:"profile_id" required:"false"`
	BottleID  *string  `json:"bottle_id" required:"false"`
	VatFillML *float64 `json:"vat_fill_ml" required:"false" minimum:"0"`
	Change    string   `json:"change" required:"false" maxLength:"500"`
}

// Print prepares a print once more, on its plate or with its pieces, oriented, supported and
// sliced as before. It knows of which print it is the next try, and what was changed for it.
func (w *Tasks) Print(ctx context.Context, runID string, in Again) (printing.RunSheet, error) {
	var sheet printing.RunSheet
	var plate bench.Plate
	err := w.Store.Read(ctx, func(t *store.Tx) (err error) {
		if sheet, err = printing.ReadRunSheet(t, runID); err != nil || sheet.Run.PlateID == nil {
			return err
		}
		plate, err = t.Plate(*sheet.Run.PlateID)
		return err
	})
	if err != nil {
		return sheet, err
	}
	old := sheet.Run
	if in.ProfileID == "" {
		in.ProfileID = old.ProfileID
	}
	p := printing.Preparation{MachineID: old.MachineID, ProfileID: in.ProfileID, BottleID: in.BottleID, VatFillML: in.VatFillML}
	switch {
	case p.BottleID == nil:
		p.BottleID = old.BottleID
	case *p.BottleID == "":
		p.BottleID = nil
	}
	if plate.ID != "" && plate.Open() {
		p.PlateID = &plate.ID
	} else {
		p.Pieces = portionsOf(sheet.Specimens)
	}
	return w.printing.PrepareAs(ctx, p, func(r *bench.Run) {
		r.AgainOfID, r.AgainChange = &old.ID, strings.TrimSpace(in.Change)
		r.Software, r.Orientation, r.Supports = old.Software, old.Orientation, old.Supports
		if r.ResinID != old.ResinID && in.BottleID == nil {
			r.BottleID = nil // another resin comes from another bottle
		}
	})
}

// portionsOf are the pieces of specimens with their copies, by scale, in their order.
func portionsOf(specimens []bench.Specimen) (out []printing.Portion) {
	for _, s := range specimens {
		i := slices.IndexFunc(out, func(p printing.Portion) bool { return p.PieceID == s.PieceID && *p.ScalePct == s.ScalePct })
		if i < 0 {
			i = len(out)
			out = append(out, printing.Portion{PieceID: s.PieceID, ScalePct: quantity.Ptr(s.ScalePct)})
		}
		out[i].Copies++
	}
	return out
}

// Try is a print in a row of tries: what was changed for it, and what came of it.
type Try struct {
	RunID    string `json:"run_id"`
	Code     string `json:"code"`
	Settings string `json:"settings"`
	Change   string `json:"change"`
	Shape    string `json:"shape" enum:"open,whole,nicked,split,ring"`
	Ended    bool   `json:"ended"`
}

// Tries are the prints before and after one in its row: of which it was made again, back to the
// first, and which were made again of it.
type Tries struct {
	Before []Try `json:"before"`
	After  []Try `json:"after"`
}

// mostTries bounds how far back a row is followed.
const mostTries = 20

// Tries tells the row in which a print stands.
func (w *Tasks) Tries(ctx context.Context, runID string) (Tries, error) {
	out := Tries{Before: []Try{}, After: []Try{}}
	err := w.Store.Read(ctx, func(t *store.Tx) error {
		r, err := t.Run(runID)
		if err != nil {
			return err
		}
		for of := r.AgainOfID; of != nil && len(out.Before) < mostTries; {
			before, err := t.Run(*of)
			if err != nil {
				return err
			}
			try, err := tryOf(t, before)
			if err != nil {
				return err
			}
			out.Before, of = append(out.Before, try), before.AgainOfID
		}
		again, err := t.RunsAgain(runID)
		if err != nil {
			return err
		}
		for _, next := range again {
			try, err := tryOf(t, next)
			if err != nil {
				return err
			}
			out.After = append(out.After, try)
		}
		return nil
	})
	return out, err
}

func tryOf(t *store.Tx, r bench.Run) (Try, error) {
	p, err := t.Profile(r.ProfileID)
	if err != nil {
		return Try{}, fmt.Errorf("settings of %s: %w", r.Code, err)
	}
	return Try{RunID: r.ID, Code: r.Code, Settings: kit.SettingsName(p), Change: r.AgainChange, Shape: r.Shape, Ended: r.EndedMS != nil}, nil
}
