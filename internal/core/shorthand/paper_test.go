package shorthand

import (
	"slices"
	"strings"
	"testing"
)

func TestRungsAreReadAsTheyWereTicked(t *testing.T) {
	sizes := []float64{0.2, 0.3, 0.4, 0.5}
	for text, want := range map[string][]bool{
		"all": {true, true, true, true}, " None ": {false, false, false, false}, "0,4 0,5": {false, false, true, true}, "0.3mm; 0.2": {true, true, false, false},
		"all but 0.2": {false, true, true, true}, "ALL BUT 0,2 and 0,5": {false, true, true, false},
	} {
		got, err := Rungs(text, sizes)
		if err != nil || !slices.Equal(got, want) {
			t.Errorf("%q: %v, %v", text, got, err)
		}
	}
	for text, says := range map[string]string{"": "nothing is written", "0.45": "0.2, 0.3, 0.4 and 0.5 mm", "all but": "write all, or all but", "all 0.2": "write all, or all but", "some": "is no rung", "none 0.2": "is no rung", "NaN": "is no rung"} {
		if _, err := Rungs(text, sizes); err == nil || !strings.Contains(err.Error(), says) {
			t.Errorf("%q: %v", text, err)
		}
	}
}

func TestAStateIsItsWordOrItsLetter(t *testing.T) {
	for text, want := range map[string]string{"p": "present", "Present": "present", " d": "damaged", "miss": "missing"} {
		if got, err := State(text); err != nil || got != want {
			t.Errorf("%q: %q, %v", text, got, err)
		}
	}
	for _, text := range []string{"", "x", "presents"} {
		if got, err := State(text); err == nil {
			t.Errorf("%q: %q", text, got)
		}
	}
}

func FuzzRungs(f *testing.F) {
	for _, seed := range []string{"all", "none", "all but 0,2", "0.4 0.5", "1e-1 0x1p-2"} {
		f.Add(seed)
	}
	f.Fuzz(func(t *testing.T, text string) {
		got, err := Rungs(text, []float64{0.1, 0.25, 0.5})
		if err == nil && len(got) != 3 {
			t.Errorf("%q: %v", text, got)
		}
		if err != nil && len(err.Error()) > 300 {
			t.Errorf("%q: an error of %d bytes", text, len(err.Error()))
		}
	})
}
