package compare

import (
	"cmp"
	"fmt"
	"slices"

	"ojime/internal/bench"
	"ojime/internal/core/audit"
	"ojime/internal/core/contest"
	"ojime/internal/core/evidence"
	"ojime/internal/core/metrology"
	"ojime/internal/core/quantity"
	"ojime/internal/work/printing"
	"ojime/internal/work/task"
)

// formed is a form, with the mating part where it has one: what was tried with different
// parts is never brought together.
type formed struct{ id, mate string }

// forms are roundness, angles, warp, feet, fits and threads over prints, specimens and
// readings.
func (t *table) forms() error {
	known, tools := map[string]bench.Form{}, map[string]bench.Instrument{}
	for _, s := range t.sides {
		for _, sheet := range s.Sheets {
			for _, f := range sheet.Forms {
				known[f.ID] = f
			}
		}
		tools = task.ByID(s.Measured.Instruments, func(i bench.Instrument) string { return i.ID })
	}
	var ids []string
	for id := range known {
		ids = append(ids, id)
	}
	slices.SortFunc(ids, func(a, b string) int {
		return cmp.Or(cmp.Compare(known[a].CreatedMS, known[b].CreatedMS), cmp.Compare(a, b)) // several may be entered at one instant
	})
	for _, id := range ids {
		form := known[id]
		kind, _ := metrology.FormOf(form.Kind)
		for _, mate := range t.mates(id) {
			label := t.label(bench.Feature{Name: form.Name, PieceID: form.PieceID}, "")
			if mate != "" {
				label += ", with " + mate
			}
			if err := t.formRows(form, kind, formed{id, mate}, label, tools); err != nil {
				return err
			}
		}
	}
	return nil
}

// mates are the parts that a form was tried with, in their order; empty for one without.
func (t *table) mates(id string) (out []string) {
	for _, s := range t.sides {
		for _, sheet := range s.Sheets {
			for _, r := range countingForms(sheet) {
				if r.FormID == id && !slices.Contains(out, r.Mate) {
					out = append(out, r.Mate)
				}
			}
		}
	}
	slices.Sort(out)
	return out
}

// countingForms are the readings of forms that count: not taken back, and from before a coat.
func countingForms(sheet *printing.RunSheet) (out []bench.FormReading) {
	for _, r := range sheet.FormReadings {
		if r.TakenBackMS == nil && !sheet.IsCoated(r.SpecimenID, r.RecordedMS) {
			out = append(out, r)
		}
	}
	return out
}

func (t *table) formRows(form bench.Form, kind metrology.FormKind, at formed, label string, tools map[string]bench.Instrument) error {
	switch form.Kind {
	case metrology.Thread:
		counts := make([][]evidence.PrintCount, len(t.sides))
		for i, s := range t.sides {
			for _, sheet := range s.Sheets {
				if n := threadsOn(sheet, at); n.Judged > 0 {
					counts[i] = append(counts[i], n)
				}
			}
		}
		m, err := contest.Rates("form "+at.id+" "+at.mate, label+": goes", counts, t.pairs, nil)
		if err != nil {
			return err
		}
		t.add(contest.Present(m), audit.Dimension)
		return nil
	case metrology.Fit:
		for _, limit := range []struct{ key, words string }{{"tightest", "tightest clearance that goes"}, {"loosest", "loosest that holds"}} {
			if err := t.addForm("form "+at.id+" "+at.mate+" "+limit.key, label+": "+limit.words, "mm", fitStep(form), func(sheet *printing.RunSheet) evidence.NestedPrint {
				return formsOn(sheet, at, func(r bench.FormReading) *float64 {
					limits := metrology.LimitsOf(r.Rungs)
					return map[string]*float64{"tightest": limits.TightestMM, "loosest": limits.LoosestMM}[limit.key]
				})
			}); err != nil {
				return err
			}
		}
		return nil
	}
	resolution := 0.0
	for _, s := range t.sides {
		for _, sheet := range s.Sheets {
			for _, r := range countingForms(sheet) {
				if r.FormID == at.id {
					resolution = max(resolution, tools[quantity.Or(r.InstrumentID, "")].ResolutionMM)
				}
			}
		}
	}
	return t.addForm("form "+at.id, fmt.Sprintf("%s: %s", label, kind.Figure), kind.Unit, resolution, func(sheet *printing.RunSheet) evidence.NestedPrint {
		return formsOn(sheet, at, func(r bench.FormReading) *float64 {
			return quantity.Ptr(metrology.FormFigure(form.Kind, r.Measured, quantity.Or(form.Nominal, 0)))
		})
	})
}

// fitStep is the coarsest step between clearances: what lies between two cannot be told.
func fitStep(form bench.Form) (step float64) {
	for i := 1; i < len(form.RungsMM); i++ {
		step = max(step, form.RungsMM[i]-form.RungsMM[i-1])
	}
	return step
}

func (t *table) addForm(key, label, unit string, resolution float64, on func(*printing.RunSheet) evidence.NestedPrint) error {
	sides := make([]evidence.NestedSide, len(t.sides))
	for i, s := range t.sides {
		sides[i].Instrument.ResolutionMM = resolution
		for _, sheet := range s.Sheets {
			if p := on(sheet); len(p.Specimens) > 0 {
				sides[i].Prints = append(sides[i].Prints, p)
			}
		}
	}
	if !slices.ContainsFunc(sides, func(s evidence.NestedSide) bool { return len(s.Prints) > 0 }) {
		return nil
	}
	m, err := contest.Levels(key, label, unit, sides, t.pairs)
	if err != nil {
		return err
	}
	for i := range m.Sides {
		if m.Sides[i].Value == nil {
			m.Sides[i].Note = "Not read."
		}
	}
	t.add(m, audit.Dimension)
	return nil
}

// formsOn are the figures of a form on one print, copy by copy.
func formsOn(sheet *printing.RunSheet, at formed, figure func(bench.FormReading) *float64) (out evidence.NestedPrint) {
	for _, p := range sheet.Specimens {
		var values []float64
		for _, r := range countingForms(sheet) {
			if r.SpecimenID != p.ID || r.FormID != at.id || r.Mate != at.mate || p.SetAside() {
				continue
			}
			if v := figure(r); v != nil {
				values = append(values, *v)
			}
		}
		if len(values) > 0 {
			out.Specimens = append(out.Specimens, evidence.NestedSpecimen{ValuesMM: values})
		}
	}
	return out
}

// threadsOn counts on how many copies of a print a thread does not go, by its last reading.
func threadsOn(sheet *printing.RunSheet, at formed) (n evidence.PrintCount) {
	for _, p := range sheet.Specimens {
		state := ""
		for _, r := range countingForms(sheet) {
			if r.SpecimenID == p.ID && r.FormID == at.id && r.Mate == at.mate && !p.SetAside() {
				state = r.State
			}
		}
		if state == "" {
			continue
		}
		if n.Judged++; state != "goes" {
			n.Failed++
		}
	}
	return n
}
