package evidence

import (
	"math"
	"math/rand/v2"
	"testing"

	"ojime/internal/core/quantity"
)

var caliper = NestedInstrument{ID: quantity.Ptr("I1"), ResolutionMM: 0.01, ReferenceUMM: 0.012}

// nest is a side of prints of specimens of readings.
func nest(tool NestedInstrument, prints ...[][]float64) (s NestedSide) {
	s.Instrument = tool
	for _, p := range prints {
		var print NestedPrint
		for _, values := range p {
			print.Specimens = append(print.Specimens, NestedSpecimen{values})
		}
		s.Prints = append(s.Prints, print)
	}
	return s
}

func nested(t *testing.T, in NestedInput) NestedResult {
	t.Helper()
	out, err := Nested(in)
	if err != nil {
		t.Fatal(err)
	}
	return out
}

// More copies of the same prints do not make a set-up better known; more prints do.
func TestCopiesDoNotNarrowASetUp(t *testing.T) {
	few := nested(t, NestedInput{A: nest(caliper, [][]float64{{20}}, [][]float64{{20.1}}, [][]float64{{19.9}})}).A
	many := nested(t, NestedInput{A: nest(caliper, [][]float64{{20}, {20}, {20}, {20}}, [][]float64{{20.1}, {20.1}, {20.1}, {20.1}}, [][]float64{{19.9}, {19.9}, {19.9}, {19.9}})}).A
	if few.UMM != many.UMM || *few.DF != *many.DF || many.Specimens != 12 || few.Specimens != 3 {
		t.Errorf("three copies: %+v, twelve: %+v", few, many)
	}
	more := nested(t, NestedInput{A: nest(caliper, [][]float64{{20}}, [][]float64{{20.1}}, [][]float64{{19.9}}, [][]float64{{20}}, [][]float64{{20.1}}, [][]float64{{19.9}})}).A
	if more.ExpandedMM >= few.ExpandedMM {
		t.Errorf("six prints %v, three %v", more.ExpandedMM, few.ExpandedMM)
	}
}

// What cannot be told apart may still differ: readings that are all equal leave the
// resolution's spread.
func TestEqualReadingsAreNotCertain(t *testing.T) {
	r := nested(t, NestedInput{A: nest(caliper, [][]float64{{5}}, [][]float64{{5}}), B: quantity.Ptr(nest(caliper, [][]float64{{5.01}}, [][]float64{{5.01}}))})
	floor := 0.01 * 0.01 / 12
	if math.Abs(r.A.UMM-math.Sqrt(floor/2+floor+0.012*0.012)) > 1e-12 || *r.Verdict != NotShown {
		t.Errorf("%+v, %s", r.A, *r.Verdict)
	}
	exact := NestedInstrument{}
	if same := nested(t, NestedInput{A: nest(exact, [][]float64{{5}}, [][]float64{{5}}), B: quantity.Ptr(nest(exact, [][]float64{{5}}, [][]float64{{5}}))}); same.P != nil || *same.Verdict != NotShown || *same.DifferenceMM != 0 {
		t.Errorf("no uncertainty at all: %+v", same)
	}
}

// One instrument's own error is in both sides and cancels; of two, or of one that is not
// known, it does not.
func TestAnInstrumentsErrorCancelsWithItself(t *testing.T) {
	other, unknown := caliper, caliper
	other.ID, unknown.ID = quantity.Ptr("I2"), nil
	width := func(a, b NestedInstrument) float64 {
		r := nested(t, NestedInput{A: nest(a, [][]float64{{5}}, [][]float64{{5.02}}), B: quantity.Ptr(nest(b, [][]float64{{5.1}}, [][]float64{{5.12}}))})
		return r.CI[1] - r.CI[0]
	}
	same := width(caliper, caliper)
	for name, w := range map[string]float64{"two": width(caliper, other), "not known": width(unknown, unknown), "one not known": width(caliper, unknown)} {
		if w == same {
			t.Errorf("%s instruments: %v, one and the same: %v", name, w, same)
		}
	}
}

func TestOnePrintTellsOfItselfAlone(t *testing.T) {
	r := nested(t, NestedInput{A: nest(caliper, [][]float64{{5, 5.02}, {5.1, 5.08}}), B: quantity.Ptr(nest(caliper, [][]float64{{6}}, [][]float64{{6.1}}))})
	if r.A.CI != nil || r.P != nil || r.DF != nil || r.CI != nil || *r.Verdict != NotShown || !r.Has("one_print") || r.Has("single_reading") || r.A.Components.PrintSDMM != nil {
		t.Errorf("%+v", r)
	}
	if single := nested(t, NestedInput{A: nest(caliper, [][]float64{{5}})}); !single.Has("single_reading") || single.A.DF != nil || single.A.K > 1.97 {
		t.Errorf("one reading: %+v", single)
	}
}

// Spreads that were put in at each level come out again.
func TestComponentsComeOutAgain(t *testing.T) {
	chance := rand.New(rand.NewPCG(41, 42))
	const printSD, specimenSD, readingSD = 0.05, 0.03, 0.01
	s := NestedSide{Instrument: NestedInstrument{}}
	for range 400 {
		var p NestedPrint
		print := printSD * chance.NormFloat64()
		for range 5 {
			specimen := print + specimenSD*chance.NormFloat64()
			p.Specimens = append(p.Specimens, NestedSpecimen{[]float64{20 + specimen + readingSD*chance.NormFloat64(), 20 + specimen + readingSD*chance.NormFloat64()}})
		}
		s.Prints = append(s.Prints, p)
	}
	c := nested(t, NestedInput{A: s}).A.Components
	for what, pair := range map[string][2]float64{"prints": {*c.PrintSDMM, printSD}, "specimens": {*c.SpecimenSDMM, specimenSD}, "readings": {*c.ReadingSDMM, readingSD}} {
		if math.Abs(pair[0]-pair[1]) > 0.1*pair[1] {
			t.Errorf("%s: %v, put in %v", what, pair[0], pair[1])
		}
	}
}

func TestSizesThatCannotBe(t *testing.T) {
	good := nest(caliper, [][]float64{{5}})
	bad := caliper
	bad.ResolutionMM = -1
	for path, in := range map[string]NestedInput{
		"a.prints": {A: NestedSide{Instrument: caliper}}, "a.prints[1].specimens": {A: nest(caliper, [][]float64{{5}}, nil)}, "b.prints[0].specimens[0].values_mm": {A: good, B: quantity.Ptr(nest(caliper, [][]float64{nil}))},
		"a.prints[0].specimens[0].values_mm[1]": {A: nest(caliper, [][]float64{{5, math.NaN()}})}, "a.instrument.resolution_mm": {A: nest(bad, [][]float64{{5}})},
	} {
		_, err := Nested(in)
		wantField(t, err, path)
	}
}
