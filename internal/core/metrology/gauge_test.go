package metrology

import (
	"math"
	"testing"
)

// The worked study of AIAG, Measurement Systems Analysis, 4th ed. (2010), chapter III: ten
// parts, three appraisers, three trials; the manual's readings are about a master, so ten is
// added to each, which changes no variance.
var published = [3][3][10]float64{
	{{0.29, -0.56, 1.34, 0.47, -0.80, 0.02, 0.59, -0.31, 2.26, -1.36}, {0.41, -0.68, 1.17, 0.50, -0.92, -0.11, 0.75, -0.20, 1.99, -1.25}, {0.64, -0.58, 1.27, 0.64, -0.84, -0.21, 0.66, -0.17, 2.01, -1.31}},
	{{0.08, -0.47, 1.19, 0.01, -0.56, -0.20, 0.47, -0.63, 1.80, -1.68}, {0.25, -1.22, 0.94, 1.03, -1.20, 0.22, 0.55, 0.08, 2.12, -1.62}, {0.07, -0.68, 1.34, 0.20, -1.28, 0.06, 0.83, -0.34, 2.19, -1.50}},
	{{0.04, -1.38, 0.88, 0.14, -1.46, -0.29, 0.02, -0.46, 1.77, -1.49}, {-0.11, -1.13, 1.09, 0.20, -1.07, -0.67, 0.01, -0.56, 1.45, -1.77}, {-0.15, -0.96, 0.67, 0.11, -1.45, -0.49, 0.21, -0.49, 1.87, -2.16}},
}

func study() (values [][][]float64) {
	for part := range 10 {
		row := make([][]float64, 3)
		for operator := range row {
			for trial := range 3 {
				row[operator] = append(row[operator], 10+published[operator][trial][part])
			}
		}
		values = append(values, row)
	}
	return values
}

func TestGaugeAgreesWithAPublishedStudy(t *testing.T) {
	got, err := Gauge(GaugeInput{Values: study()})
	if err != nil {
		t.Fatal(err)
	}
	for name, v := range map[string][2]float64{
		"repeatability": {got.RepeatabilitySDMM, 0.199933}, "reproducibility": {*got.ReproducibilitySDMM, 0.226838}, "gauge": {got.GaugeSDMM, 0.302373},
		"part": {got.PartSDMM, 1.042327}, "share": {*got.GaugeSharePct, 27.86}, "interaction p": {*got.InteractionP, 0.974},
	} {
		if math.Abs(v[0]-v[1]) > 6e-3*v[1] {
			t.Errorf("%s: %v, published %v", name, v[0], v[1])
		}
	}
	if *got.Distinct != 4 {
		t.Errorf("tells %d kinds apart, published 4", *got.Distinct)
	}
}

// Another unit changes every length alike, another order nothing, and the input is as it was.
func TestGaugeKnowsNoUnitAndNoOrder(t *testing.T) {
	values := study()
	first, _ := Gauge(GaugeInput{Values: values})
	for i, j := 0, len(values)-1; i < j; i, j = i+1, j-1 {
		values[i], values[j] = values[j], values[i]
	}
	for _, part := range values {
		for _, cell := range part {
			for k := range cell {
				cell[k] *= 25.4
			}
		}
	}
	again, err := Gauge(GaugeInput{Values: values})
	if err != nil || math.Abs(again.GaugeSDMM/first.GaugeSDMM-25.4) > 1e-9 || math.Abs(*again.GaugeSharePct-*first.GaugeSharePct) > 1e-9 || math.Abs(*again.InteractionP-*first.InteractionP) > 1e-9 {
		t.Errorf("%+v, was %+v (%v)", again, first, err)
	}
	for want, in := range map[string][][][]float64{
		"values": {{{1, 2}}}, "values[0]": {{}, {}}, "values[0][0]": {{{1}}, {{1}}}, "values[1]": {{{1, 2}}, {{1, 2}, {1, 2}}}, "values[1][0]": {{{1, 2}}, {{1, 2, 3}}}, "values[1][0][1]": {{{1, 2}}, {{1, 0}}},
	} {
		if _, err := Gauge(GaugeInput{Values: in}); err == nil || err.Error()[:len(want)+1] != want+":" {
			t.Errorf("%s: %v", want, err)
		}
	}
}
