package setup

import (
	"math"
	"testing"
)

func close(a, b float64) bool { return math.Abs(a-b) < 1e-9 }

// Two kinds of plates, each a tenth slower on one side: the ratio is 1.1 though that side
// printed the longer plate more often.
func TestTimesAreComparedPlateByPlate(t *testing.T) {
	got := MatchedTimes([]TimeStratum{{A: []float64{1100, 1102, 1098}, B: []float64{1000}}, {A: []float64{4400}, B: []float64{4000, 4008, 3992}}})
	if math.Abs(got.Ratio-1.1) > 1e-3 || got.CI == nil || got.CI[0] > 1.1 || got.CI[1] < 1.1 || *got.P > 0.001 {
		t.Errorf("%+v", got)
	}
}

// One kind, equal counts: Student's t with the pooled spread, which is Welch's there but for
// its degrees of freedom.
func TestOneKindIsAComparisonOfItsTimes(t *testing.T) {
	a, b := []float64{1000, 1010, 990}, []float64{1200, 1215, 1190}
	got := MatchedTimes([]TimeStratum{{a, b}})
	want := RatioOfTimes(a, b)
	if !close(got.Ratio, want.Ratio) || math.Abs(got.CI[0]-want.CI[0]) > 0.005 || math.Abs(got.CI[1]-want.CI[1]) > 0.005 {
		t.Errorf("%+v, as one comparison %+v", got, want)
	}
}

// Single prints of several kinds are pairs.
func TestSinglePrintsOfSeveralKindsArePairs(t *testing.T) {
	got := MatchedTimes([]TimeStratum{{[]float64{110}, []float64{100}}, {[]float64{230}, []float64{200}}, {[]float64{324}, []float64{300}}})
	logs := []float64{math.Log(1.1), math.Log(1.15), math.Log(1.08)}
	mean := (logs[0] + logs[1] + logs[2]) / 3
	sd := math.Sqrt((math.Pow(logs[0]-mean, 2) + math.Pow(logs[1]-mean, 2) + math.Pow(logs[2]-mean, 2)) / 2)
	half := 4.302652729911275 * sd / math.Sqrt(3) // t(2)
	if !close(got.Ratio, math.Exp(mean)) || got.CI == nil || !close(got.CI[0], math.Exp(mean-half)) || !close(got.CI[1], math.Exp(mean+half)) {
		t.Errorf("%+v", got)
	}
	if one := MatchedTimes([]TimeStratum{{[]float64{110}, []float64{100}}}); !close(one.Ratio, 1.1) || one.CI != nil || one.P != nil {
		t.Errorf("one print a side: %+v", one)
	}
	if same := MatchedTimes([]TimeStratum{{[]float64{100, 100}, []float64{100, 100}}}); same.P == nil || *same.P != 1 || same.CI == nil {
		t.Errorf("times that are equal to the second still have its spread: %+v", same)
	}
}
