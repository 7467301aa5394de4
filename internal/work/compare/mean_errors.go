package compare

import (
	"fmt"
	"math"
	"strings"

	"ojime/internal/core/audit"
	"ojime/internal/core/contest"
	"ojime/internal/core/evidence"
	"ojime/internal/core/stats"
	"ojime/internal/work/side"
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

// sizeErrors are the errors of one size by side, and on which prints of each it was read.
type sizeErrors struct {
	pieceID string
	sides   []evidence.NestedSide
	on      [][]int
}

// meanErrors are the errors of all sizes of a piece together, as they are and by their size
// alone: each print's mean over the sizes that were read on every print of every side.
// Others would weigh on some prints, or on one side, alone. Several pieces are also set
// against each other piece by piece.
func (t *table) meanErrors(features []sizeErrors) error {
	var pieces []string
	of := map[string][]sizeErrors{}
	for _, f := range features {
		if of[f.pieceID] == nil {
			pieces = append(pieces, f.pieceID)
		}
		of[f.pieceID] = append(of[f.pieceID], f)
	}
	for _, kind := range meanErrorKinds {
		var matched [][]evidence.NestedSide
		for _, piece := range pieces {
			read := readThroughout(of[piece], len(t.sides))
			if len(read) < 2 {
				continue
			}
			sides := make([]evidence.NestedSide, len(t.sides))
			for i := range sides {
				sides[i] = together(read, i, kind.value)
			}
			key, label := kind.key, fmt.Sprintf("The %d sizes read on all prints: %s", len(read), kind.label)
			if len(pieces) > 1 {
				key, label = key+" "+piece, fmt.Sprintf("The %d sizes of %s read on all its prints: %s", len(read), t.pieces[piece], kind.label)
			}
			m, err := contest.Errors(key, label, sides, 0, t.pairs)
			if err != nil {
				return err
			}
			if kind.key == absoluteError {
				m = contest.NotBelowZero(m)
			}
			t.add(m, audit.Dimension)
			matched = append(matched, sides)
		}
		if len(matched) > 1 {
			m, err := contest.MatchedErrors(kind.key, strings.ToUpper(kind.label[:1])+kind.label[1:]+" of sizes, piece by piece", matched, t.pairs)
			if err != nil {
				return err
			}
			t.add(m, audit.Dimension)
		}
	}
	return nil
}

// absoluteError is the mean of errors by their size alone.
const absoluteError = "error_abs"

// meanErrorKinds are the two ways in which errors of sizes are brought together.
var meanErrorKinds = []struct {
	key, label string
	value      func(float64) float64
}{{absoluteError, "mean absolute error", math.Abs}, {"error_mean", "mean error", func(v float64) float64 { return v }}}

// readThroughout leaves the sizes that were read on every print on which any was. A side
// without a reading asks for nothing.
func readThroughout(features []sizeErrors, sides int) []sizeErrors {
	read := make([]map[int]bool, sides)
	for i := range read {
		read[i] = map[int]bool{}
		for _, f := range features {
			for _, print := range f.on[i] {
				read[i][print] = true
			}
		}
	}
	return side.Only(features, func(f sizeErrors) bool {
		for i := range read {
			if len(f.on[i]) < len(read[i]) {
				return false
			}
		}
		return true
	})
}

// together is one value a print: the mean over sizes of the mean over its specimens. The
// sizes were read on the same prints, which stand in one order in all of them.
func together(features []sizeErrors, side int, value func(float64) float64) (out evidence.NestedSide) {
	for n, f := range features {
		s := f.sides[side]
		if n == 0 {
			out.Instrument = s.Instrument
			out.Prints = make([]evidence.NestedPrint, len(s.Prints))
		} else if out.Instrument.ID == nil || s.Instrument.ID == nil || *out.Instrument.ID != *s.Instrument.ID {
			out.Instrument.ID = nil
		}
		for i, p := range s.Prints {
			var sum float64
			for _, specimen := range p.Specimens {
				sum += value(specimen.ValuesMM[0])
			}
			if n == 0 {
				out.Prints[i].Specimens = []evidence.NestedSpecimen{{ValuesMM: []float64{0}}}
			}
			out.Prints[i].Specimens[0].ValuesMM[0] += sum / float64(len(p.Specimens)) / float64(len(features))
		}
	}
	return out
}
