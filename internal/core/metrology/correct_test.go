package metrology

import (
	"fmt"
	"math"
	"strings"
	"testing"
)

// part is a part whose outer sizes along x are (1 + slope) of nominal and bloom by an offset;
// its inner sizes shrink by the offset.
func part(t *testing.T, slope, offset float64) SummaryResult {
	t.Helper()
	in := SummaryInput{Instrument: Instrument{ResolutionMM: 0.01, ReferenceUMM: 0.005}}
	for _, nominal := range []float64{5, 10, 20, 40} {
		in.Readings = append(in.Readings, FeatureReadings{Feature: fmt.Sprintf("outer %v", nominal), Axis: "x", Kind: "outer", NominalMM: nominal, ValuesMM: []float64{nominal*(1+slope) + offset}})
	}
	for _, nominal := range []float64{6, 12} {
		in.Readings = append(in.Readings, FeatureReadings{Feature: fmt.Sprintf("inner %v", nominal), Axis: "x", Kind: "inner", NominalMM: nominal, ValuesMM: []float64{nominal*(1+slope) - offset}})
	}
	out, err := Summary(in)
	if err != nil {
		t.Fatal(err)
	}
	return out
}

// A part that shrinks by a quarter of a per cent and blooms by 40 µm: once it is scaled and its
// outlines are pulled in, every size comes right.
func TestACorrectionUndoesShrinkageAndLight(t *testing.T) {
	out := part(t, -0.0025, 0.04)
	c := Correct(out)
	if len(c.Says) != 3 || !strings.HasPrefix(c.Says[0], "Scale it to 100.25 % along x of what it was") || !strings.HasPrefix(c.Says[1], "Move every outline in by 20 µm a side") {
		t.Fatalf("%q", c.Says)
	}
	for i, expected := range c.Expected {
		if math.Abs(expected) > 0.0005 {
			t.Errorf("%s would be off by %v mm", out.Features[i].Feature, expected)
		}
	}
	if !strings.Contains(c.Says[2], "where 70 µm was the largest") {
		t.Error(c.Says[2])
	}
	if right := Correct(part(t, 0, 0)); len(right.Says) != 0 {
		t.Errorf("what is right needs nothing: %q", right.Says)
	}
	if one, err := Summary(SummaryInput{Readings: []FeatureReadings{{Feature: "a", Axis: "x", Kind: "outer", NominalMM: 10, ValuesMM: []float64{10.1}}}, Instrument: Instrument{ResolutionMM: 0.01}}); err != nil || len(Correct(one).Says) != 0 {
		t.Errorf("one size tells nothing of scale or light: %v", err)
	}
}

// The next print is held against what the first let expect at the scale that was set.
func TestWhetherACorrectionCameTrue(t *testing.T) {
	before := part(t, -0.0025, 0.04)
	s := 1.0025
	scaled := func(slope float64) SummaryResult {
		after := part(t, s*(1+slope)-1, 0.04)
		return after
	}
	words, ok := CameTrue(before, scaled(-0.0025), 100.25)
	if !ok || !strings.HasSuffix(words, "6 of 6 sizes within their uncertainties: it came true.") || !strings.HasPrefix(words, "expected at 100.25 % of its scale: a mean error of +") {
		t.Error(words)
	}
	if words, _ = CameTrue(before, scaled(-0.012), 100.25); !strings.Contains(words, "it did not come true") && !strings.Contains(words, "in part") {
		t.Error(words)
	}
	if _, ok = CameTrue(before, SummaryResult{}, 100.25); ok {
		t.Error("nothing was compared")
	}
}

func TestWideFeetAskForLessBottomExposure(t *testing.T) {
	if got := FootAdvice(0.16, 3); !strings.HasPrefix(got, "Feet are wider by 160 µm over 3 copies: lower the bottom exposure") || !strings.Contains(got, "in by 80 µm a side") {
		t.Error(got)
	}
	if got := FootAdvice(0.03, 3); got != "" {
		t.Error(got)
	}
}
