package inspect

import (
	"context"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/core/viewing"
	"ojime/internal/store"
	"ojime/internal/work/printing"
)

// MostLines is how many readings are listed at once.
const MostLines = 10_000

// LinesFilter narrows the list of readings to a machine or a piece by their ids; empty for
// all.
type LinesFilter struct{ MachineID, PieceID string }

// ReadingLine is a reading with what it is of: Says is what was read, ErrorUM how far a size
// is from its nominal, at the scale of its copy. Counts says whether it does, and if not why.
type ReadingLine struct {
	ID         string   `json:"id"`
	RunID      string   `json:"run_id"`
	Run        string   `json:"run"`
	Specimen   string   `json:"specimen"`
	Machine    string   `json:"machine"`
	Piece      string   `json:"piece"`
	Feature    string   `json:"feature"`
	Says       string   `json:"says"`
	ErrorUM    *float64 `json:"error_um"`
	Instrument string   `json:"instrument"`
	Doubtful   bool     `json:"doubtful"`
	RecordedMS int64    `json:"recorded_ms"`
	Counts     string   `json:"counts"`
}

// ReadingLines are the newest readings of prints, the last first. More says that the record
// holds others beyond them.
type ReadingLines struct {
	Lines []ReadingLine `json:"lines"`
	More  bool          `json:"more"`
}

// Lines lists the newest readings of prints.
func (w *Tasks) Lines(ctx context.Context, f LinesFilter) (out ReadingLines, err error) {
	out.Lines = []ReadingLine{}
	err = w.Store.Read(ctx, func(t *store.Tx) error {
		rows, err := t.ReadingLines(f.MachineID, f.PieceID, MostLines+1)
		if err != nil {
			return err
		}
		if out.More = len(rows) > MostLines; out.More {
			rows = rows[:MostLines]
		}
		reader := printing.NewReader(t)
		stages, err := t.SpecimenStages()
		if err != nil {
			return err
		}
		for _, row := range rows {
			line, err := lineOf(reader, row, stages)
			if err != nil {
				return err
			}
			out.Lines = append(out.Lines, line)
		}
		return nil
	})
	return out, err
}

func lineOf(reader *printing.Reader, row store.ReadingLine, stages []bench.SpecimenStage) (ReadingLine, error) {
	r := row.Reading
	line := ReadingLine{ID: r.ID, RunID: row.RunID, Run: row.Run, Specimen: row.Specimen, Machine: row.Machine, Piece: row.Piece, Feature: row.Feature,
		Says: saysOf(r), Instrument: quantity.Or(row.Instrument, ""), RecordedMS: r.RecordedMS, Counts: countsOf(row, stages)}
	if r.ValueMM != nil && row.NominalMM != nil {
		line.ErrorUM = quantity.Ptr(1000 * (*r.ValueMM - *row.NominalMM*row.ScalePct/100))
	}
	doubtful, err := reader.Doubtful([]bench.Reading{r})
	line.Doubtful = len(doubtful) > 0
	return line, err
}

// countsOf says whether a reading counts, and if not why.
func countsOf(row store.ReadingLine, stages []bench.SpecimenStage) string {
	r := row.Reading
	coated := func() bool {
		return viewing.Coated(viewing.StageAt(bench.ReachedBy(bench.Run{}, stages, r.SpecimenID), r.RecordedMS))
	}
	switch {
	case r.TakenBackMS != nil:
		return "taken back: " + r.TakenBackWhy
	case row.Corrected != 0:
		return "corrected since"
	case row.Outcome == "lost":
		return "of a lost copy"
	case coated():
		return "under a coat"
	}
	return "yes"
}
