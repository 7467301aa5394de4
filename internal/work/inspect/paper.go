package inspect

import (
	"context"
	"fmt"
	"strconv"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/core/shorthand"
	"ojime/internal/say"
	"ojime/internal/store"
	"ojime/internal/work/printing"
	"ojime/internal/work/task"
)

// Paper is the reading sheet of a print: a line for each size, ladder and checkpoint of each copy,
// numbered in an order that stays, so that what was written on paper is typed in line by line.
type Paper struct {
	RunID   string      `json:"run_id"`
	Run     string      `json:"run"`
	Printed string      `json:"printed"`
	Machine string      `json:"machine"`
	Resin   string      `json:"resin"`
	Lines   []PaperLine `json:"lines"`
	// Unread counts the lines of which nothing is on record.
	Unread int64 `json:"unread"`
}

// PaperLine is one line of it: a size (NominalMM), a ladder (RungsMM) or, with neither, a
// checkpoint. Was is what is on record for it already, empty where nothing is.
type PaperLine struct {
	N         int64       `json:"n"`
	Specimen  string      `json:"specimen"`
	Piece     string      `json:"piece"`
	Feature   string      `json:"feature"`
	Kind      string      `json:"kind" enum:"size,ladder,checkpoint"`
	NominalMM *float64    `json:"nominal_mm"`
	RungsMM   bench.Sizes `json:"rungs_mm"`
	Was       string      `json:"was"`
}

// TypedPaper is what was written on a reading sheet, by the numbers of its lines; sizes were read
// with the instrument that it names. Confirmed keeps sizes that are questioned too.
type TypedPaper struct {
	Lines        []TypedLine `json:"lines" maxItems:"5000"`
	InstrumentID string      `json:"instrument_id" required:"false"`
	Confirmed    bool        `json:"confirmed" required:"false"`
}

// TypedLine is what was written on one line; empty where nothing was.
type TypedLine struct {
	N    int64  `json:"n"`
	Text string `json:"text"`
}

// TypedFates is what becomes of each line that something was written on.
type TypedFates struct {
	Fates      []TypedFate `json:"fates"`
	Kept       int64       `json:"kept"`
	Questioned int64       `json:"questioned"`
	Refused    int64       `json:"refused"`
}

// TypedFate is what becomes of one line.
type TypedFate struct {
	N    int64  `json:"n"`
	Fate string `json:"fate" enum:"kept,questioned,refused"`
	Says string `json:"says"`
}

// Paper is the reading sheet of a print.
func (w *Tasks) Paper(ctx context.Context, runID string) (out Paper, err error) {
	err = w.Store.Read(ctx, func(t *store.Tx) error {
		out, err = paperOf(t, runID)
		return err
	})
	return out, err
}

func paperOf(t *store.Tx, runID string) (Paper, error) {
	s, err := ratedSheet(t, runID)
	if err != nil {
		return Paper{}, err
	}
	if s.Reference != nil {
		return Paper{}, fmt.Errorf("run %s: %w", runID, bench.ErrNotFound)
	}
	out := Paper{RunID: runID, Run: s.Run.Code, Printed: s.Printed, Machine: s.Machine.Name, Resin: s.Resin.Name, Lines: []PaperLine{}}
	names := map[string]string{}
	for _, p := range s.Pieces {
		names[p.ID] = p.Name
	}
	for _, p := range s.Specimens {
		for _, f := range s.Features {
			if p.SetAside() || f.RetiredMS != nil || f.PieceID != p.PieceID {
				continue
			}
			line := PaperLine{N: int64(len(out.Lines) + 1), Specimen: p.Code, Piece: names[p.PieceID], Feature: f.Name, Kind: "checkpoint", NominalMM: f.NominalMM, RungsMM: f.RungsMM, Was: wasRead(s, p.ID, f.ID)}
			switch {
			case len(f.RungsMM) > 0:
				line.Kind = "ladder"
			case f.NominalMM != nil:
				line.Kind = "size"
			}
			if line.RungsMM == nil {
				line.RungsMM = bench.Sizes{}
			}
			if line.Was == "" {
				out.Unread++
			}
			out.Lines = append(out.Lines, line)
		}
	}
	return out, nil
}

// wasRead is what is on record of one feature of one copy, in words.
func wasRead(s *printing.RunSheet, specimenID, featureID string) string {
	var words []string
	for _, r := range s.Readings {
		if r.SpecimenID == specimenID && r.FeatureID == featureID {
			words = append(words, saysOf(r))
		}
	}
	return say.List(words)
}

// PreviewPaper says what becomes of each line that was typed in, and keeps nothing.
func (w *Tasks) PreviewPaper(ctx context.Context, runID string, in TypedPaper) (out TypedFates, err error) {
	err = w.Store.Read(ctx, func(t *store.Tx) error {
		out, _, err = typed(t, runID, in)
		return err
	})
	return out, err
}

// KeepPaper keeps the lines that can be kept, and says of every other why it is not.
func (w *Tasks) KeepPaper(ctx context.Context, runID string, in TypedPaper) (TypedFates, error) {
	return task.Keep(ctx, w.Base, func(t *store.Tx) (TypedFates, error) {
		out, readings, err := typed(t, runID, in)
		if err != nil {
			return out, err
		}
		return out, w.keepReadings(t, readings)
	})
}

// typed holds what was written against the record. A ladder is kept whole or not at all.
func typed(t *store.Tx, runID string, in TypedPaper) (out TypedFates, keep []bench.Reading, err error) {
	out.Fates = []TypedFate{}
	paper, err := paperOf(t, runID)
	if err != nil {
		return out, nil, err
	}
	fates := map[int64]*TypedFate{}
	var order []*TypedFate
	var rows []tableRow
	for _, written := range in.Lines {
		text := strings.TrimSpace(written.Text)
		if text == "" {
			continue
		}
		if written.N < 1 || written.N > int64(len(paper.Lines)) || fates[written.N] != nil {
			return out, nil, quantity.Errorf("lines", "name line %d twice or beyond the sheet; that of %s has 1 to %d", written.N, paper.Run, len(paper.Lines))
		}
		fate := &TypedFate{N: written.N, Fate: "kept"}
		fates[written.N], order = fate, append(order, fate)
		said, err := paper.Lines[written.N-1].rows(text)
		if err != nil {
			fate.Fate, fate.Says = "refused", err.Error()
			continue
		}
		rows = append(rows, said...)
	}
	sorted, readings, err := sortRows(t, rows, in.InstrumentID, in.Confirmed)
	if err != nil {
		return out, nil, err
	}
	for _, row := range sorted.Rows {
		fates[int64(row.Line)].takes(row)
	}
	for _, fate := range order {
		out.count(*fate)
	}
	for _, row := range sorted.Rows {
		if row.Fate != "kept" {
			continue
		}
		if fates[int64(row.Line)].Fate == "kept" {
			keep = append(keep, readings[0])
		}
		readings = readings[1:]
	}
	return out, keep, nil
}

// takes is the fate of a line by those of its readings: the worst of them stands for all.
func (f *TypedFate) takes(row ImportRow) {
	switch {
	case f.Fate == "refused", f.Fate == "questioned" && row.Fate == "kept":
	case row.Fate == f.Fate && f.Says != "":
		f.Says += ", " + row.Says
	default:
		f.Fate, f.Says = row.Fate, row.Says
	}
}

func (o *TypedFates) count(f TypedFate) {
	switch f.Fate {
	case "kept":
		o.Kept++
	case "questioned":
		o.Questioned++
	default:
		o.Refused++
	}
	o.Fates = append(o.Fates, f)
}

// rows are the readings that a line says.
func (l PaperLine) rows(text string) ([]tableRow, error) {
	row := tableRow{line: int(l.N), specimen: l.Specimen, feature: l.Feature}
	switch l.Kind {
	case "size":
		row.value = text
		return []tableRow{row}, nil
	case "checkpoint":
		state, err := shorthand.State(text)
		row.state = state
		return []tableRow{row}, err
	}
	intact, err := shorthand.Rungs(text, l.RungsMM)
	if err != nil {
		return nil, err
	}
	var out []tableRow
	for i, mm := range l.RungsMM {
		one := row
		one.rung, one.intact = strconv.FormatFloat(mm, 'f', -1, 64), map[bool]string{true: "yes", false: "no"}[intact[i]]
		out = append(out, one)
	}
	return out, nil
}
