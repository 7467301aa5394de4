package metrology

import (
	"math"
	"slices"
	"strings"
	"testing"
)

// Each copy is held against its own first sitting, whose readings are one value; copies that
// differ in size tell nothing of the change.
func TestSizesOverDays(t *testing.T) {
	const hour = 3600 * 1000
	in := []DatedReading{
		{"a", 0, 10.00}, {"a", hour, 10.02}, {"a", 7*24*hour + 2*hour, 9.99}, {"b", hour, 20}, {"b", 7*24*hour - 3*hour, 19.96}, {"b", 7 * 24 * hour, 19.98},
		{"c", 0, 5}, {"c", 11 * hour, 5.5}, {"d", 30 * 24 * hour, 8}, {"b", 14 * 24 * hour, 19.9},
	}
	slices.Reverse(in) // their order does not matter
	got := OverDays(in)
	if len(got) != 2 || got[0].Days != 7 || got[0].Copies != 2 || got[1].Days != 14 || got[1].Copies != 1 || got[1].CI != nil {
		t.Fatalf("%+v", got)
	}
	// a: 9.99 − 10.01 = −0.02; b: 19.97 − 20 = −0.03. By hand: mean −0.025, t(1) = 12.7062, sd 0.00707107, half 0.0635310.
	if math.Abs(got[0].MeanMM+0.025) > 1e-9 || math.Abs(got[0].CI[1]-(-0.025+0.0635310)) > 1e-6 {
		t.Errorf("%+v %v", got[0], *got[0].CI)
	}
	if words := got[0].Words("Width"); !strings.HasPrefix(words, "Width, 7 days after the first reading: −25 µm over 2 copies (") {
		t.Error(words)
	}
	if words := got[1].Words("Width"); words != "Width, 14 days after the first reading: −100 µm over 1 copy." {
		t.Error(words)
	}
	if OverDays(in[:1]) != nil || OverDays(nil) != nil {
		t.Error("one reading changed")
	}
}
