package plan

import (
	"testing"

	"ojime/internal/core/quantity"
)

func sequence(t *testing.T, in SequenceInput) SequenceResult {
	t.Helper()
	out, err := Sequence(in)
	if err != nil {
		t.Fatal(err)
	}
	return out
}

// Equal prints in a row stand where the week of one plate puts them.
func TestASequenceOfOnePlateIsItsWeek(t *testing.T) {
	w := week(t, WeekInput{PrintS: 3.5 * 3600, TurnaroundMin: 25, FromH: 9, ToH: 18, Days: 5, Copies: 1})
	in := SequenceInput{TurnaroundMin: 25, FromH: 9, ToH: 18, Days: 5}
	for range w.Prints {
		in.Prints = append(in.Prints, SequencePrint{PrintS: 3.5 * 3600})
	}
	s := sequence(t, in)
	for i, p := range s.Prints {
		if p != w.Prints[i] {
			t.Errorf("print %d at %v, in its week at %v", i, p, w.Prints[i])
		}
	}
	if !quantity.Equal(s.RunH, w.RunH) || !quantity.Equal(s.AttendedH, w.AttendedH) {
		t.Errorf("%v and %v h, in its week %v and %v", s.RunH, s.AttendedH, w.RunH, w.AttendedH)
	}
}

func TestASequenceGoesOnNextWeek(t *testing.T) {
	// A print of 40 h a day apart: Monday 9:30, Wednesday, Friday; the fourth is the next Monday.
	in := SequenceInput{TurnaroundMin: 30, FromH: 9, ToH: 17, Days: 5, Prints: []SequencePrint{{40 * 3600, 0}, {40 * 3600, 0}, {40 * 3600, 0}, {3600, 60}}}
	s := sequence(t, in)
	for i, want := range []float64{9.5, 2*24 + 9.5, 4*24 + 9.5, 7*24 + 10.5} {
		if !quantity.Equal(s.Prints[i].StartH, want) {
			t.Errorf("print %d starts at %v h, want %v", i, s.Prints[i].StartH, want)
		}
	}
	if !quantity.Equal(s.EndH, 7*24+11.5) || !quantity.Equal(s.AttendedH, 3) {
		t.Errorf("ends at %v h, %v h there", s.EndH, s.AttendedH)
	}
	// A print longer than a week still has one after it.
	long := sequence(t, SequenceInput{TurnaroundMin: 30, FromH: 9, ToH: 17, Days: 5, Prints: []SequencePrint{{200 * 3600, 0}, {3600, 0}}})
	if len(long.Prints) != 2 || long.Prints[1].StartH < 209.5 {
		t.Errorf("%v", long.Prints)
	}
}

func TestASequenceSaysWhatDoesNotFitADay(t *testing.T) {
	s := sequence(t, SequenceInput{TurnaroundMin: 30, FromH: 9, ToH: 10, Days: 5, Prints: []SequencePrint{{3600, 0}, {3600, 60}, {3600, 0}}})
	if len(s.Prints) != 1 || !s.Has("no_time") {
		t.Errorf("%+v", s)
	}
	if _, err := Sequence(SequenceInput{FromH: 9, ToH: 9, Days: 5}); err == nil {
		t.Error("a day of no hours passes")
	}
	if _, err := Sequence(SequenceInput{FromH: 9, ToH: 10, Days: 5, Prints: []SequencePrint{{0, 0}}}); err == nil {
		t.Error("a print of no time passes")
	}
}
