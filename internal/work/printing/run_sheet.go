package printing

import (
	"context"

	"ojime/internal/bench"
	"ojime/internal/core/machine"
	"ojime/internal/core/metrology"
	"ojime/internal/store"
	"ojime/internal/work/kit"
)

// RunSheet is one run on one page. Readings are those that count; Corrected
// are those that a correction replaced.
type RunSheet struct {
	Run        bench.Run                `json:"run"`
	Took       bench.Took               `json:"took"`
	Machine    bench.Machine            `json:"machine"`
	Resin      bench.Resin              `json:"resin"`
	Profile    bench.Profile            `json:"profile"`
	Settings   string                   `json:"settings"`
	Condition  machine.Condition        `json:"condition"`
	Printed    string                   `json:"printed"`
	Contents   []Printed                `json:"contents"`
	Pieces     []bench.Piece            `json:"pieces"`
	Features   []bench.Feature          `json:"features"`
	Specimens  []bench.Specimen         `json:"specimens"`
	Readings   []bench.Reading          `json:"readings"`
	Corrected  []bench.Reading          `json:"corrected"`
	Dimensions *metrology.SummaryResult `json:"dimensions"`
	Ladders    []LadderResult           `json:"ladders"`
	SetAside   []string                 `json:"set_aside"`
	Counts     bench.Counts             `json:"counts"`
	History    []bench.Amendment        `json:"history"`
}

// ReadRunSheet is RunSheet within a transaction.
func ReadRunSheet(t *store.Tx, id string) (RunSheet, error) {
	out, err := ReadPlainSheet(t, kit.NewLookup(t), id)
	if err != nil {
		return out, err
	}
	if out.History, err = t.AmendmentsOf("run", id); err != nil {
		return out, err
	}
	return out, out.evaluate(t)
}

// readSheet reads a run and what hangs on it, without computing.
func ReadPlainSheet(t *store.Tx, lookup kit.Lookup, id string) (RunSheet, error) {
	var out RunSheet
	var err error
	if out.Run, err = t.Run(id); err != nil {
		return out, err
	}
	out.Took = out.Run.Took()
	if out.Machine, err = lookup.Machine(out.Run.MachineID); err != nil {
		return out, err
	}
	if out.Resin, err = lookup.Resin(out.Run.ResinID); err != nil {
		return out, err
	}
	if out.Profile, err = lookup.Profile(out.Run.ProfileID); err != nil {
		return out, err
	}
	out.Settings = kit.SettingsName(out.Profile)
	history, err := lookup.History(out.Run.MachineID)
	if err != nil {
		return out, err
	}
	out.Condition = history.At(out.Run.StartedMS)
	if out.Specimens, err = t.SpecimensOfRun(id); err != nil {
		return out, err
	}
	if err := out.readPieces(lookup); err != nil {
		return out, err
	}
	readings, err := t.ReadingsOfRun(id)
	out.Readings, out.Corrected = counting(readings)
	return out, err
}

// readPieces reads every piece on the plate, in the order of its specimens, and what
// can be measured on each.
func (s *RunSheet) readPieces(lookup kit.Lookup) error {
	s.Pieces, s.Features = []bench.Piece{}, []bench.Feature{}
	tallies, names := bench.TallyOf(s.Specimens), map[string]string{}
	for _, t := range tallies {
		piece, err := lookup.Piece(t.PieceID)
		if err != nil {
			return err
		}
		s.Pieces = append(s.Pieces, piece)
		names[piece.ID] = piece.Name
	}
	s.Contents, s.Counts = PrintedOf(tallies, names), bench.CountsOf(tallies)
	s.Printed = PrintedWords(s.Contents)
	for _, p := range s.Pieces {
		features, err := lookup.Features(p.ID)
		if err != nil {
			return err
		}
		s.Features = append(s.Features, features...)
	}
	return nil
}

func (s *RunSheet) evaluate(t *store.Tx) error {
	instruments, err := t.Instruments()
	if err != nil {
		return err
	}
	in := Measured{Features: s.Features, Specimens: s.Specimens, Readings: s.Readings, Instruments: instruments}
	if s.Dimensions, err = in.Dimensions(); err != nil {
		return err
	}
	s.Ladders, err = in.Ladders(s.Machine)
	s.SetAside = []string{}
	for _, p := range s.Specimens {
		if p.SetAside() {
			s.SetAside = append(s.SetAside, p.Code)
		}
	}
	return err
}

// RunSheet reads one run with everything that hangs on it.
func (w *Tasks) RunSheet(ctx context.Context, id string) (out RunSheet, err error) {
	err = w.Store.Read(ctx, func(t *store.Tx) error {
		out, err = ReadRunSheet(t, id)
		return err
	})
	return out, err
}
