package quantity

import (
	"errors"
	"fmt"
	"math"
	"testing"
)

func TestRoundingNoiseDecidesNothing(t *testing.T) {
	third := 0.1 + 0.2 // 0.30000000000000004
	if !Equal(third, 0.3) || Less(0.3, third) || !AtMost(third, 0.3) || !Equal(0, 0) || Equal(1, 1+1e-8) || !Equal(1, 1+1e-10) || !Less(1, 1.00001) {
		t.Error("computed numbers are told apart by their noise")
	}
	for v, want := range map[float64][3]float64{2.9999999999: {3, 3, 3}, 3.0000000001: {3, 3, 3}, 2.5: {3, 2, 3}, 2.4999999999: {3, 2, 3}, 2.4: {3, 2, 2}, -0.5: {0, -1, 0}, -2.5: {-2, -3, -2}} {
		if got := [3]float64{Ceil(v), Floor(v), Round(v)}; got != want {
			t.Errorf("%v rounds to %v, want %v", v, got, want)
		}
	}
}

func TestExponentialsThatLeaveAllSenseAreWithheld(t *testing.T) {
	for x, known := range map[float64]bool{0: true, 699: true, -699: true, 701: false, -701: false, math.Inf(1): false, math.NaN(): false} {
		if got := Exp(x); (got != nil) != known || got != nil && *got != math.Exp(x) {
			t.Errorf("e^%v is %v", x, got)
		}
	}
	if ExpInterval(-1, 701) != nil || ExpInterval(-701, 1) != nil {
		t.Error("an interval with an end beyond sense was given")
	}
	if got := ExpInterval(0, 1); got == nil || got[0] != 1 || got[1] != math.E {
		t.Errorf("%v", got)
	}
}

func TestChecksNameTheFirstThatIsWrong(t *testing.T) {
	nan := math.NaN()
	for want, check := range map[string]func(*Checks){
		"": func(c *Checks) {
			c.Above("a", 1)
			c.NotBelow("b", 0)
			c.CountAbove("c", 1)
			c.OneOf("d", "x", "x", "y")
			c.AboveIf("e", nil)
			c.NumberIf("f", nil)
			c.CountNotBelow("g", 0)
		},
		"a":    func(c *Checks) { c.Above("a", 0); c.Above("b", -1) },
		"b[2]": func(c *Checks) { c.Above("b[2]", nan) }, "c": func(c *Checks) { c.NotBelow("c", -1e-300) }, "d": func(c *Checks) { c.Number("d", math.Inf(-1)) },
		"e": func(c *Checks) { c.CountAbove("e", 0) }, "f": func(c *Checks) { c.CountNotBelow("f", -1) }, "g": func(c *Checks) { c.OneOf("g", "z", "x", "y") },
		"h": func(c *Checks) { c.AboveIf("h", &nan) }, "i": func(c *Checks) { c.NotBelowIf("i", Ptr(-1.0)) }, "j": func(c *Checks) { c.NumberIf("j", &nan) },
		"k": func(c *Checks) { c.Fail("k", "is %d", 3); c.Fail("l", "is 4") },
	} {
		var c Checks
		check(&c)
		var wrong *FieldError
		if got := c.Err(); (got == nil) != (want == "") || got != nil && (!errors.As(got, &wrong) || wrong.Path != want) {
			t.Errorf("%v, want one of field %q", got, want)
		}
	}
}

func TestAWarningStandsOnce(t *testing.T) {
	w := None()
	if w.Warnings == nil || w.Has("x") {
		t.Error("no warnings is not an empty list")
	}
	w.Warn("x", "first %d", 1)
	w.Warn("x", "second")
	if len(w.Warnings) != 1 || w.Warnings[0].Message != "first 1" || !w.Has("x") {
		t.Errorf("%+v", w)
	}
	if text := Errorf("points[2].dose", "is %s; measure it", "0").Error(); text != "points[2].dose: is 0; measure it" {
		t.Error(text)
	}
}

func TestRangesFollowTheUnitOfAName(t *testing.T) {
	for name, high := range map[string]float64{"width_mm": 1e5, "area_mm2": 1e9, "pitch_um": 1e6, "temp_c": 1000, "cell_number": 9999, "something": 1e9, "started_ms": LatestMS, "film_life_layers": 1e9} {
		if got := RangeOf(name); got.High != high || got.Low != -high && name != "started_ms" {
			t.Errorf("%s lies in %v", name, got)
		}
	}
	if RangeOf("started_ms").Low != 0 {
		t.Error("an instant before 1970")
	}
	for name, most := range map[string]int{"notes": LongText, "name": ShortText, "before_entry": EntryText, "verdict": LongText} {
		if got := LengthOf(name); got != most {
			t.Errorf("%s has up to %d characters, want %d", name, got, most)
		}
	}
}

func TestOptionalValues(t *testing.T) {
	if Or(nil, 3) != 3 || Or(Ptr(4), 3) != 4 || Or[string](nil, "") != "" {
		t.Error("an optional value is not its own or the fallback")
	}
	a, b := Ptr(1), Ptr(1)
	if a == b {
		t.Error(fmt.Sprint("two pointers are one: ", a))
	}
}
