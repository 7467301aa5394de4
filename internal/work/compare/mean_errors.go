package compare

import (
	"math"

	"ojime/internal/core/audit"
	"ojime/internal/core/contest"
	"ojime/internal/core/evidence"
	"ojime/internal/core/stats"
)

func anyPrints(sides []evidence.NestedSide) bool {
	for _, s := range sides {
		if len(s.Prints) > 0 {
			return true
		}
	}
	return false
}

// lessNominal makes errors of sizes.
func lessNominal(sides []evidence.NestedSide, nominalMM float64) []evidence.NestedSide {
	out := make([]evidence.NestedSide, len(sides))
	for i, s := range sides {
		out[i].Instrument = s.Instrument
		for _, p := range s.Prints {
			var specimens []evidence.NestedSpecimen
			for _, specimen := range p.Specimens {
				specimens = append(specimens, evidence.NestedSpecimen{ValuesMM: []float64{stats.Mean(specimen.ValuesMM) - nominalMM}})
			}
			out[i].Prints = append(out[i].Prints, evidence.NestedPrint{Specimens: specimens})
		}
	}
	return out
}

// meanErrors are the errors of all sizes together, as they are and by their size alone:
// each print's mean over its features. A print counts where every size was read on it
// that was read on any.
func (t *table) meanErrors(features [][]evidence.NestedSide) error {
	if len(features) < 2 {
		return nil
	}
	for _, of := range []struct {
		key, label string
		value      func(float64) float64
	}{{"error_abs", "All sizes: mean absolute error", math.Abs}, {"error_mean", "All sizes: mean error", func(v float64) float64 { return v }}} {
		sides := make([]evidence.NestedSide, len(t.sides))
		for i := range sides {
			sides[i] = together(features, i, of.value)
		}
		if !anyPrints(sides) {
			continue
		}
		m, err := contest.Errors(of.key, of.label, sides, 0, t.pairs)
		if err != nil {
			return err
		}
		t.add(m, audit.Dimension)
	}
	return nil
}

// together is one value a print: the mean over features of the mean over its specimens.
// Prints stand in one order in all features that were read on all of them.
func together(features [][]evidence.NestedSide, side int, value func(float64) float64) (out evidence.NestedSide) {
	most := 0
	for _, f := range features {
		most = max(most, len(f[side].Prints))
	}
	sums, n := make([]float64, most), 0.0
	for _, f := range features {
		s := f[side]
		if len(s.Prints) < most || most == 0 {
			continue // a size that was not read on every print would weigh on some alone
		}
		if n++; n == 1 {
			out.Instrument = s.Instrument
		} else if out.Instrument.ID == nil || s.Instrument.ID == nil || *out.Instrument.ID != *s.Instrument.ID {
			out.Instrument.ID = nil
		}
		for i, p := range s.Prints {
			var sum float64
			for _, specimen := range p.Specimens {
				sum += value(specimen.ValuesMM[0])
			}
			sums[i] += sum / float64(len(p.Specimens))
		}
	}
	if n == 0 {
		return evidence.NestedSide{}
	}
	for _, sum := range sums {
		out.Prints = append(out.Prints, evidence.NestedPrint{Specimens: []evidence.NestedSpecimen{{ValuesMM: []float64{sum / n}}}})
	}
	return out
}
