package inspect

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/say"
	"ojime/internal/store"
	"ojime/internal/work/printing"
	"ojime/internal/work/task"
)

// ReadingTable is a table of readings as text: one header row, then a reading a row.
// InstrumentID is what sizes were read with whose row names none. Confirmed keeps sizes that
// are questioned too.
type ReadingTable struct {
	Text         string `json:"text" minLength:"1"`
	InstrumentID string `json:"instrument_id" required:"false"`
	Confirmed    bool   `json:"confirmed" required:"false"`
}

// ImportRow is what becomes of a row: it is kept, questioned as a slip, or refused, each with
// what it says.
type ImportRow struct {
	Line     int    `json:"line"`
	Specimen string `json:"specimen"`
	Feature  string `json:"feature"`
	Fate     string `json:"fate" enum:"kept,questioned,refused"`
	Says     string `json:"says"`
}

// ImportedReadings is what becomes of a table, row by row. Left are the columns that are not
// read.
type ImportedReadings struct {
	Rows       []ImportRow `json:"rows"`
	Left       []string    `json:"left"`
	Kept       int         `json:"kept"`
	Questioned int         `json:"questioned"`
	Refused    int         `json:"refused"`
	// Empty are rows in which nothing was filled in.
	Empty int `json:"empty"`
}

// PreviewReadings says what bringing a table in would do, and keeps nothing.
func (w *Tasks) PreviewReadings(ctx context.Context, in ReadingTable) (out ImportedReadings, err error) {
	err = w.Store.Read(ctx, func(t *store.Tx) error {
		out, _, err = w.sortOut(t, in)
		return err
	})
	return out, err
}

// ImportReadings keeps the rows of a table that can be kept, and says of every other why it
// is not.
func (w *Tasks) ImportReadings(ctx context.Context, in ReadingTable) (ImportedReadings, error) {
	return task.Keep(ctx, w.Base, func(t *store.Tx) (ImportedReadings, error) {
		out, readings, err := w.sortOut(t, in)
		if err != nil {
			return out, err
		}
		return out, w.keepReadings(t, readings)
	})
}

// keepReadings keeps readings that were found good.
func (w *Tasks) keepReadings(t *store.Tx, readings []bench.Reading) (err error) {
	for _, r := range readings {
		if r.ID, err = w.NewID(); err != nil {
			return err
		}
		r.RecordedMS = w.NowMS()
		if err := t.SaveReading(r); err != nil {
			return err
		}
	}
	return nil
}

// sortOut holds each row against the record and the rows before it.
func (w *Tasks) sortOut(t *store.Tx, in ReadingTable) (out ImportedReadings, keep []bench.Reading, err error) {
	rows, left, err := parseTable(in.Text)
	if err != nil {
		return ImportedReadings{Rows: []ImportRow{}, Left: []string{}}, nil, err
	}
	out, keep, err = sortRows(t, rows, in.InstrumentID, in.Confirmed)
	out.Left = append(out.Left, left...)
	return out, keep, err
}

// sortRows is sortOut of rows that are read.
func sortRows(t *store.Tx, rows []tableRow, usual string, confirmed bool) (out ImportedReadings, keep []bench.Reading, err error) {
	out = ImportedReadings{Rows: []ImportRow{}, Left: []string{}}
	instruments, err := t.Instruments()
	if err != nil {
		return out, nil, err
	}
	sheets := &sheetsByCode{t: t, reader: printing.NewReader(t), known: map[string]*printing.RunSheet{}}
	for _, row := range rows {
		if row.value == "" && row.intact == "" && row.state == "" {
			out.Empty++
			continue
		}
		line := ImportRow{Line: row.line, Specimen: row.specimen, Feature: row.feature, Fate: "kept"}
		r, sheet, err := readingOf(sheets, instruments, usual, row)
		if err == nil {
			err = accepts(sheet, "", r, confirmed)
		}
		if err == nil && !confirmed && isOnRecord(sheet, r) {
			err = bench.Questioned("value_mm", "%s stands on record already for it: is it another reading?", say.Reading(*r.ValueMM))
		}
		switch {
		case err == nil:
			sheet.Readings = append(sheet.Readings, r)
			keep, line.Says, out.Kept = append(keep, r), saysOf(r), out.Kept+1
		case errors.Is(err, bench.ErrQuestioned):
			line.Fate, line.Says, out.Questioned = "questioned", messageOf(err), out.Questioned+1
		default:
			line.Fate, line.Says, out.Refused = "refused", messageOf(err), out.Refused+1
		}
		out.Rows = append(out.Rows, line)
	}
	return out, keep, nil
}

// sheetsByCode finds the print of a specimen by its code, reading each once; what is accepted
// of a table is added to its readings.
type sheetsByCode struct {
	t      *store.Tx
	reader *printing.Reader
	known  map[string]*printing.RunSheet
}

func (s *sheetsByCode) of(code string) (bench.Specimen, *printing.RunSheet, error) {
	p, err := s.t.SpecimenByCode(strings.ToUpper(code))
	if err != nil {
		return p, nil, fmt.Errorf("no copy with the code %.20q is on record; readings of references are entered on their pages", code)
	}
	if s.known[p.RunID] == nil {
		sheets, err := s.reader.Sheets(p.RunID)
		if err != nil {
			return p, nil, err
		}
		s.known[p.RunID] = sheets[0]
	}
	return p, s.known[p.RunID], nil
}

// readingOf is the reading that a row says.
func readingOf(sheets *sheetsByCode, instruments []bench.Instrument, usual string, row tableRow) (r bench.Reading, sheet *printing.RunSheet, err error) {
	if row.countsElse != "" && row.countsElse != "yes" {
		return r, nil, fmt.Errorf("it did not count where it comes from (%.80s)", row.countsElse)
	}
	p, sheet, err := sheets.of(row.specimen)
	if err != nil {
		return r, nil, err
	}
	r.SpecimenID = p.ID
	for _, f := range sheet.Features {
		if f.RetiredMS == nil && f.PieceID == p.PieceID && strings.EqualFold(f.Name, row.feature) {
			if r.FeatureID != "" {
				return r, nil, fmt.Errorf("two features of its piece are called %.40q; rename one", row.feature)
			}
			r.FeatureID = f.ID
		}
	}
	if r.FeatureID == "" {
		return r, nil, fmt.Errorf("its piece has no feature %.40q", row.feature)
	}
	var wrong [3]error
	r.ValueMM, wrong[0] = number(row.value)
	r.RungMM, wrong[1] = number(row.rung)
	r.Intact, wrong[2] = truth(row.intact)
	if err := errors.Join(wrong[:]...); err != nil {
		return r, nil, err
	}
	if row.state != "" {
		state := strings.ToLower(row.state)
		if state != "present" && state != "damaged" && state != "missing" {
			return r, nil, fmt.Errorf("%.20q is no state; say present, damaged or missing", row.state)
		}
		r.State = &state
	}
	if r.ValueMM == nil {
		return r, sheet, nil
	}
	if usual != "" {
		r.InstrumentID = &usual
	}
	for _, i := range instruments {
		if row.instrument != "" && (strings.EqualFold(i.Name, row.instrument) || strings.EqualFold(i.Code, row.instrument)) {
			r.InstrumentID = quantity.Ptr(i.ID)
			return r, sheet, nil
		}
	}
	if row.instrument != "" {
		return r, nil, fmt.Errorf("no instrument %.40q is on record; enter it in the kit", row.instrument)
	}
	return r, sheet, nil
}

// saysOf is a reading in words.
func saysOf(r bench.Reading) string {
	switch {
	case r.ValueMM != nil:
		return say.Reading(*r.ValueMM) + " mm"
	case r.RungMM != nil && r.Intact != nil && *r.Intact:
		return say.Reading(*r.RungMM) + " mm is intact"
	case r.RungMM != nil:
		return say.Reading(*r.RungMM) + " mm is not intact"
	}
	return quantity.Or(r.State, "")
}

// isOnRecord reports a size that was read already, to the same figures: a table that is brought
// in twice.
func isOnRecord(s *printing.RunSheet, r bench.Reading) bool {
	return r.ValueMM != nil && slices.ContainsFunc(s.Readings, func(old bench.Reading) bool {
		return old.ID != "" && old.SpecimenID == r.SpecimenID && old.FeatureID == r.FeatureID && old.ValueMM != nil && *old.ValueMM == *r.ValueMM
	})
}

// messageOf is an error as a row of a table says it.
func messageOf(err error) string {
	var field *quantity.FieldError
	switch {
	case !errors.As(err, &field):
		return err.Error()
	case errors.Is(err, bench.ErrQuestioned):
		return field.Message
	case field.Path == "corrects_id":
		return "was read already; correct it on the page of its print"
	}
	return field.Path + " " + field.Message
}
