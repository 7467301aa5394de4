package instruments

import (
	"context"
	"fmt"
	"slices"

	"ojime/internal/bench"
	"ojime/internal/core/metrology"
	"ojime/internal/core/quantity"
	"ojime/internal/say"
	"ojime/internal/store"
	"ojime/internal/work/task"
)

// StudyStep is one reading of a study: whose turn it is with which part, and what was read.
type StudyStep struct {
	Round    int      `json:"round"`
	Operator string   `json:"operator"`
	Part     string   `json:"part"`
	ValueMM  *float64 `json:"value_mm"`
}

// Study is a repeatability study of an instrument. Next is how many readings are taken; the
// reading that is next stands at that place of Steps. Result is nil until all are taken; Says
// is what they show, and Measuring is the share of the spread of single readings, in %.
type Study struct {
	Study      bench.GaugeStudy       `json:"study"`
	Instrument string                 `json:"instrument"`
	Steps      []StudyStep            `json:"steps"`
	Next       int                    `json:"next"`
	Result     *metrology.GaugeResult `json:"result"`
	Says       []string               `json:"says"`
}

func studiesOf(t *store.Tx, i bench.Instrument) ([]Study, error) {
	out := []Study{}
	all, err := t.GaugeStudies()
	if err != nil {
		return nil, err
	}
	for _, s := range slices.Backward(all) {
		if s.InstrumentID != i.ID {
			continue
		}
		study, err := studySheet(t, s, i)
		if err != nil {
			return nil, err
		}
		out = append(out, study)
	}
	return out, nil
}

func studySheet(t *store.Tx, s bench.GaugeStudy, i bench.Instrument) (Study, error) {
	out := Study{Study: s, Instrument: i.Name, Steps: []StudyStep{}, Says: []string{}}
	readings, err := t.GaugeReadingsOf(s.ID)
	if err != nil {
		return out, err
	}
	order := s.Order()
	values := make([]float64, 0, len(order))
	for n, step := range order {
		row := StudyStep{Round: step.Round + 1, Operator: s.Operators[step.Operator], Part: s.Parts[step.Part]}
		if n < len(readings) {
			row.ValueMM = &readings[n].ValueMM
			values = append(values, readings[n].ValueMM)
		}
		out.Steps = append(out.Steps, row)
	}
	out.Next = len(values)
	if len(values) < len(order) {
		return out, nil
	}
	result, err := metrology.Gauge(metrology.GaugeInput{Values: metrology.StudyValues(order, values)})
	if err != nil {
		return out, err
	}
	out.Result, out.Says = &result, studyWords(s, i, result)
	return out, nil
}

// studyWords say what a study shows: the share of the measuring, and the least difference
// that is not the instrument's own.
func studyWords(s bench.GaugeStudy, i bench.Instrument, r metrology.GaugeResult) []string {
	out := []string{fmt.Sprintf("Two readings of one part by one hand differ by more than %s in 1 of 20: a smaller difference between two single readings of %s may be its own.", say.Figure(1000*r.SmallestVisibleMM)+" µm", i.Name)}
	if r.GaugeSharePct != nil {
		out = append(out, fmt.Sprintf("Of the spread of these readings %s %% is the measuring (%s of standard deviation), over %s, %s and %s.", say.Figure(*r.GaugeSharePct), say.Figure(1000*r.GaugeSDMM)+" µm",
			say.Counted(int64(len(s.Parts)), "part"), say.Counted(int64(len(s.Operators)), "hand"), say.Counted(s.Repeats, "round")))
	}
	switch {
	case r.Distinct == nil:
		out = append(out, "It never varied: its steps are coarser than its spread, and its resolution is what it cannot tell.")
	case *r.Distinct < 2:
		out = append(out, "It cannot tell these parts apart.")
	default:
		out = append(out, fmt.Sprintf("It tells about %d kinds of these parts apart; five or more make a good gauge of such differences.", *r.Distinct))
	}
	if r.ReproducibilitySDMM != nil && *r.ReproducibilitySDMM > r.RepeatabilitySDMM {
		out = append(out, "Hands differ more than one hand does with itself: agree on where and how hard to press.")
	}
	return out
}

// LastStudy is the last study of an instrument that has all its readings; nil where there is
// none.
func LastStudy(t *store.Tx, i bench.Instrument) (*Study, error) {
	all, err := studiesOf(t, i)
	for n := range all {
		if all[n].Result != nil {
			return &all[n], err
		}
	}
	return nil, err
}

// BeginStudy begins a repeatability study, in an order that is drawn.
func (w *Tasks) BeginStudy(ctx context.Context, instrumentID string, s bench.GaugeStudy) (Study, error) {
	seed, err := w.NewSeed()
	if err != nil {
		return Study{}, err
	}
	return task.Keep(ctx, w.Base, func(t *store.Tx) (Study, error) {
		i, err := t.Instrument(instrumentID)
		if err != nil {
			return Study{}, err
		}
		if i.Unit() != "mm" {
			return Study{}, quantity.Errorf("instrument_id", "names %s, which measures no lengths; a study is of a caliper, a micrometer or an optical scale", i.Name)
		}
		if err := s.Check(); err != nil {
			return Study{}, err
		}
		number, err := t.NextNumber("gauge_study")
		if err != nil {
			return Study{}, err
		}
		if s.ID, err = w.NewID(); err != nil {
			return Study{}, err
		}
		s.Code, s.CreatedMS, s.InstrumentID, s.Seed = bench.Code("gauge_study", number), w.NowMS(), instrumentID, seed
		if err := t.SaveGaugeStudy(s); err != nil {
			return Study{}, err
		}
		return studySheet(t, s, i)
	})
}

// StudyByID is one study.
func (w *Tasks) StudyByID(ctx context.Context, id string) (out Study, err error) {
	err = w.Store.Read(ctx, func(t *store.Tx) error {
		out, err = readStudy(t, id)
		return err
	})
	return out, err
}

func readStudy(t *store.Tx, id string) (Study, error) {
	s, err := t.GaugeStudy(id)
	if err != nil {
		return Study{}, err
	}
	i, err := t.Instrument(s.InstrumentID)
	if err != nil {
		return Study{}, err
	}
	return studySheet(t, s, i)
}

// ReadStudy appends the reading that is next; one far from the others of its part is
// questioned unless confirmed.
func (w *Tasks) ReadStudy(ctx context.Context, id string, valueMM float64, confirmed bool) (Study, error) {
	return task.Keep(ctx, w.Base, func(t *store.Tx) (Study, error) {
		study, err := readStudy(t, id)
		if err != nil {
			return study, err
		}
		if study.Next >= len(study.Steps) {
			return study, fmt.Errorf("study %s has all its readings; take the last one back to correct it: %w", study.Study.Code, bench.ErrConflict)
		}
		r := bench.GaugeReading{StudyID: id, Position: int64(study.Next), ValueMM: valueMM, AtMS: w.NowMS()}
		if err := r.Check(); err != nil {
			return study, err
		}
		for _, s := range study.Steps {
			if s.ValueMM == nil || s.Part != study.Steps[study.Next].Part || confirmed {
				continue
			}
			if metrology.Slip(valueMM, *s.ValueMM, nil) != "" {
				return study, bench.Questioned("value_mm", "%s for a part that was %s before?", say.Reading(valueMM), say.Reading(*s.ValueMM))
			}
		}
		if r.ID, err = w.NewID(); err != nil {
			return study, err
		}
		if err := t.SaveGaugeReading(r); err != nil {
			return study, err
		}
		return readStudy(t, id)
	})
}

// UndoReading takes the last reading of a study back; it stays on record.
func (w *Tasks) UndoReading(ctx context.Context, id string) (Study, error) {
	return task.Keep(ctx, w.Base, func(t *store.Tx) (Study, error) {
		readings, err := t.GaugeReadingsOf(id)
		if err != nil {
			return Study{}, err
		}
		if len(readings) == 0 {
			return Study{}, fmt.Errorf("nothing was read yet: %w", bench.ErrConflict)
		}
		last := readings[len(readings)-1]
		last.TakenBackMS = quantity.Ptr(w.NowMS())
		if err := t.SaveGaugeReading(last); err != nil {
			return Study{}, err
		}
		return readStudy(t, id)
	})
}
