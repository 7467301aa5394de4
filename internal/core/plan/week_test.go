package plan

import (
	"errors"
	"math"
	"math/rand/v2"
	"testing"

	"ojime/internal/core/quantity"
)

func week(t *testing.T, in WeekInput) WeekResult {
	t.Helper()
	out, err := Week(in)
	if err != nil {
		t.Fatal(err)
	}
	return out
}

// A print of half a day only fits overnight, and costs an iteration a day.
func TestAWeekOfPrints(t *testing.T) {
	for _, c := range []struct {
		name              string
		in                WeekInput
		plates, overnight int64
		runH, attendedH   float64
	}{
		// From 9 to 17: with half an hour between, a 2 h print starts at 9:30, 12:00, 14:30, and 17:00.
		{"short prints", WeekInput{PrintS: 7200, TurnaroundMin: 30, FromH: 9, ToH: 17, Days: 5, Copies: 3}, 20, 5, 40, 10},
		{"a day's print", WeekInput{PrintS: 12 * 3600, TurnaroundMin: 30, FromH: 9, ToH: 17, Days: 5, Copies: 1}, 5, 5, 60, 2.5},
		// It ends at 9:30 on the day after the next, so every second day starts one.
		{"a print of a day and a half", WeekInput{PrintS: 36 * 3600, TurnaroundMin: 30, FromH: 9, ToH: 17, Days: 5, Copies: 1}, 3, 3, 108, 1.5},
		{"one day", WeekInput{PrintS: 3600, TurnaroundMin: 0, FromH: 9, ToH: 12, Days: 1, Copies: 1}, 4, 1, 4, 0},
	} {
		got := week(t, c.in)
		if got.Plates != c.plates || got.Overnight != c.overnight || !quantity.Equal(got.RunH, c.runH) || !quantity.Equal(got.AttendedH, c.attendedH) || got.Copies != c.plates*c.in.Copies {
			t.Errorf("%s: %d plates, %d overnight, %v h printing, %v h there; prints %v", c.name, got.Plates, got.Overnight, got.RunH, got.AttendedH, got.Prints)
		}
	}
	if never := week(t, WeekInput{PrintS: 60, TurnaroundMin: 181, FromH: 9, ToH: 12, Days: 5, Copies: 1}); never.Plates != 0 || !never.Has("no_time") {
		t.Errorf("no time to turn it round: %+v", never)
	}
}

func TestWeeksThatCannotBe(t *testing.T) {
	good := WeekInput{PrintS: 3600, FromH: 9, ToH: 17, Days: 5, Copies: 1}
	for path, change := range map[string]func(*WeekInput){
		"print_s": func(in *WeekInput) { in.PrintS = 0 }, "turnaround_min": func(in *WeekInput) { in.TurnaroundMin = -1 }, "from_h": func(in *WeekInput) { in.FromH = -1 },
		"to_h": func(in *WeekInput) { in.ToH = 9 }, "days": func(in *WeekInput) { in.Days = 8 }, "copies": func(in *WeekInput) { in.Copies = 0 },
	} {
		in := good
		change(&in)
		_, err := Week(in)
		var wrong *quantity.FieldError
		if !errors.As(err, &wrong) || wrong.Path != path {
			t.Errorf("error %v, want one of field %s", err, path)
		}
	}
}

// Whatever the week: prints do not overlap, start while someone is there, and the hours
// add up.
func TestPrintsOfAWeekDoNotOverlap(t *testing.T) {
	chance := rand.New(rand.NewPCG(6, 7))
	for range 300 {
		in := WeekInput{PrintS: 600 + 100000*chance.Float64(), TurnaroundMin: 60 * chance.Float64(), FromH: 12 * chance.Float64(), Days: 1 + chance.Int64N(7), Copies: 1 + chance.Int64N(9)}
		in.ToH = in.FromH + 0.1 + (24-in.FromH-0.1)*chance.Float64()
		got := week(t, in)
		free, run := 0.0, 0.0
		for _, p := range got.Prints {
			if p.StartH < free-1e-9 || math.Abs(p.EndH-p.StartH-in.PrintS/3600) > 1e-9 {
				t.Fatalf("%+v: %+v starts before %v", in, p, free)
			}
			hour, day := math.Mod(p.StartH, 24), int64(p.StartH/24)
			if day >= in.Days || hour < in.FromH-1e-9 || hour > in.ToH+1e-9 {
				t.Fatalf("%+v: starts on day %d at %v", in, day, hour)
			}
			free, run = p.EndH, run+in.PrintS/3600
		}
		if math.Abs(run-got.RunH) > 1e-6 || got.Overnight > got.Plates || got.WaitH < -1e-9 {
			t.Fatalf("%+v: %+v", in, got)
		}
	}
}
