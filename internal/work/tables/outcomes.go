package tables

import (
	"errors"
	"fmt"
	"slices"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/core/outcome"
	"ojime/internal/core/quantity"
	"ojime/internal/say"
	"ojime/internal/store"
)

// outcomeRow is what became of a copy, with one of its defects or none.
type outcomeRow struct {
	code, outcome, note string
	defect              bench.Defect
	// adds says that the defect is one more.
	adds bool
}

// outcomes is a copy a row; one with several defects has a row for each.
var outcomes = kind[outcomeRow]{
	name: "outcomes", title: "What became of copies", each: "copy or defect",
	about: "A copy a row, by the code on its label. A copy with several defects has a row for each.",
	columns: []column[outcomeRow]{
		text("specimen", "Copy", func(r *outcomeRow) *string { return &r.code }).needed().as("R-014-03"),
		choice("outcome", "Became", func(r *outcomeRow) *string { return &r.outcome }, outcome.Whole, outcome.MicroDefect, outcome.Lost).needed().carried(),
		choice("symptom", "Symptom", func(r *outcomeRow) *string { return &r.defect.Symptom }, bench.Symptoms...).carried(),
		choice("origin", "Origin", func(r *outcomeRow) *string { return &r.defect.Origin }, "printed", "removal", "wash", "supports", "handling", "unknown").carried(),
		choice("fault", "Laid to", func(r *outcomeRow) *string { return &r.defect.Fault }, "none", "machine", "resin", "file", "operator", "surroundings", "unknown").carried(),
		choice("severity", "How bad", func(r *outcomeRow) *string { return &r.defect.Severity }, "slight", "plain", "grave"),
		maybe("began_mm", "Began at height", func(r *outcomeRow) **float64 { return &r.defect.BeganMM }),
		text("note", "Note", func(r *outcomeRow) *string { return &r.defect.Note }),
		text("copy_note", "Note of the copy", func(r *outcomeRow) *string { return &r.note }).more(),
	},
	fresh:    func() outcomeRow { return outcomeRow{} },
	onRecord: outcomesOnRecord,
	begin: func(w *Tasks, t *store.Tx, confirmed bool) (batch[outcomeRow], error) {
		return &outcomeRows{w, t, confirmed, map[string]bench.Specimen{}}, nil
	},
}

// outcomesOnRecord are the copies that were judged, each as often as it has defects, and once
// where it has none.
func outcomesOnRecord(_ *Tasks, t *store.Tx) ([]outcomeRow, error) {
	specimens, err := t.Specimens()
	out := []outcomeRow{}
	for _, s := range specimens {
		if s.Outcome == outcome.Pending {
			continue
		}
		has := false
		for _, d := range s.Defects {
			if d.TakenBackMS == nil {
				out, has = append(out, outcomeRow{code: s.Code, outcome: s.Outcome, note: s.Note, defect: d}), true
			}
		}
		if !has {
			out = append(out, outcomeRow{code: s.Code, outcome: s.Outcome, note: s.Note})
		}
	}
	return out, err
}

// outcomeRows are the copies that rows before told of, as they would be.
type outcomeRows struct {
	w         *Tasks
	t         *store.Tx
	confirmed bool
	judged    map[string]bench.Specimen
}

func (b *outcomeRows) look(r *outcomeRow, filled map[string]bool) (fate, says string, err error) {
	s, before, err := b.copyOf(r.code)
	if err != nil {
		return "", "", err
	}
	old := s.Outcome
	if before && r.outcome != old {
		return "", "", quantity.Errorf("outcome", "is %s in a row before this one", say.Words(old))
	}
	s.Outcome = r.outcome
	if r.note != "" {
		s.Note = r.note
	}
	told := filled["symptom"]
	if !told && slices.ContainsFunc([]string{"origin", "fault", "severity", "began_mm", "note"}, func(c string) bool { return filled[c] }) {
		return "", "", quantity.Errorf("symptom", "is empty; say what is wrong, or leave the cells after it empty too")
	}
	if told && s.Outcome == outcome.Whole {
		return "", "", quantity.Errorf("symptom", "is given of a whole copy; say micro defect or lost, or leave it out")
	}
	if told {
		r.defect.Origin, r.defect.Fault = orElse(r.defect.Origin, "unknown"), orElse(r.defect.Fault, "unknown")
		same := slices.ContainsFunc(s.Defects, func(d bench.Defect) bool {
			return d.TakenBackMS == nil && len(differing(outcomes.columns[2:8], filled, *r, outcomeRow{defect: d})) == 0
		})
		if same && old == r.outcome && !before {
			return Same, "on record", nil
		}
		if !same {
			s.Defects, r.adds = append(slices.Clone(s.Defects), r.defect), true
		}
	} else if old == r.outcome && !filled["copy_note"] {
		return Same, "on record", nil
	}
	if old != outcome.Pending && old != r.outcome && !b.confirmed {
		return "", "", bench.Questioned("outcome", "was judged as %s; is it %s now?", say.Words(old), say.Words(r.outcome))
	}
	if err := b.w.inspect.WouldJudge(b.t, s); err != nil {
		return "", "", b.ofDefect(err)
	}
	b.judged[s.Code] = s
	return Kept, saysOf(s), nil
}

// copyOf is a copy as it stands after the rows before.
func (b *outcomeRows) copyOf(code string) (s bench.Specimen, before bool, err error) {
	if s, before = b.judged[strings.ToUpper(code)]; before {
		return s, true, nil
	}
	s, err = copyNow(b.t, code)
	return s, false, err
}

// ofDefect names the column of what is wrong with a defect.
func (b *outcomeRows) ofDefect(err error) error {
	var field *quantity.FieldError
	if errors.As(err, &field) {
		return quantity.Errorf(field.Path[strings.LastIndex(field.Path, ".")+1:], "%s", field.Message)
	}
	return err
}

func saysOf(s bench.Specimen) string {
	says := fmt.Sprintf("%s: %s", s.Code, say.Words(s.Outcome))
	if symptoms := s.Symptoms(); symptoms != "" && s.Outcome != outcome.Whole {
		says += ", " + symptoms
	}
	return says
}

func orElse(text, fallback string) string {
	if text == "" {
		return fallback
	}
	return text
}

func (b *outcomeRows) keep(t *store.Tx, r outcomeRow) error {
	s, err := copyNow(t, r.code)
	if err != nil {
		return err
	}
	s.Outcome, s.Note = r.outcome, orElse(r.note, s.Note)
	if r.adds {
		s.Defects = append(s.Defects, r.defect)
	}
	return b.w.inspect.JudgeIn(t, s.RunID, []bench.Specimen{s})
}

// copyNow is a copy by its label, with its defects.
func copyNow(t *store.Tx, code string) (bench.Specimen, error) {
	s, err := t.SpecimenByCode(strings.ToUpper(code))
	if errors.Is(err, bench.ErrNotFound) {
		return s, quantity.Errorf("specimen", "%.20q is on no label of this record", code)
	}
	if err != nil {
		return s, err
	}
	all, err := t.SpecimensOfRun(s.RunID)
	if err != nil {
		return s, err
	}
	return all[slices.IndexFunc(all, func(o bench.Specimen) bool { return o.ID == s.ID })], nil
}
