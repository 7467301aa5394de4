package bench

import (
	"fmt"
	"slices"
	"testing"

	"ojime/internal/core/timing"
)

func TestQuantitiesAreReadAsPeopleWriteThem(t *testing.T) {
	for text, want := range map[string]float64{"2.4": 2.4, "2,4": 2.4, " 50 µm": 50, "50µm": 50, "-3": -3, "0": 0} {
		if got, err := ParseQuantity(text, "µm"); err != nil || got != want {
			t.Errorf("%q: %v, %v", text, got, err)
		}
	}
	for _, text := range []string{"", "fast", "50 mm", "2.4.1", "1e3", "5 5"} {
		if got, err := ParseQuantity(text, "µm"); err == nil {
			t.Errorf("%q reads as %v", text, got)
		}
	}
}

func TestMovesAreReadAsPeopleWriteThem(t *testing.T) {
	two := Moves{{MM: 3, MMMin: 40}, {MM: 4.5, MMMin: 120}}
	for text, want := range map[string]Moves{
		"3 mm at 40 mm/min, 4.5 mm at 120 mm/min": two, "3 at 40; 4,5 at 120": two, "3@40 + 4.5@120": two, "3 at 40 then 4.5 at 120": two,
		"6 at 60": {{MM: 6, MMMin: 60}},
	} {
		if got, err := ParseMoves(text); err != nil || !slices.Equal(got, want) {
			t.Errorf("%q: %v, %v", text, got, err)
		}
	}
	for _, text := range []string{"", "6", "6 at", "0 at 60", "6 at 0", "6 mm at 60 mm/s", "1 at 1;1 at 1;1 at 1;1 at 1;1 at 1;1 at 1;1 at 1;1 at 1;1 at 1"} {
		if got, err := ParseMoves(text); err == nil {
			t.Errorf("%q reads as %v", text, got)
		}
	}
}

// Whatever is read is read again from its own words.
func FuzzMoves(f *testing.F) {
	for _, text := range []string{"3 mm at 40 mm/min, 4 mm at 120 mm/min", "3@40+4,5@120", "6 at 60 then 1 at 1", ";;", "9999999999999999999999 at 1"} {
		f.Add(text)
	}
	f.Fuzz(func(t *testing.T, text string) {
		moves, err := ParseMoves(text)
		if err != nil {
			return
		}
		written := ""
		for i, m := range moves {
			if m.MM <= 0 || m.MMMin <= 0 {
				t.Fatalf("%q has the stage %v", text, m)
			}
			if i > 0 {
				written += ", "
			}
			written += fmt.Sprintf("%f mm at %f mm/min", m.MM, m.MMMin)
		}
		again, err := ParseMoves(written)
		tiny := slices.ContainsFunc(moves, func(m timing.Move) bool { return m.MM < 1e-6 || m.MMMin < 1e-6 })
		if !tiny && (err != nil || len(again) != len(moves)) {
			t.Fatalf("%q was written as %q, which reads as %v, %v", text, written, again, err)
		}
	})
}
