package plan

import (
	"errors"
	"math/rand/v2"
	"testing"

	"ojime/internal/core/quantity"
)

var nineToSix = Hours{FromH: 9, ToH: 18, Days: 5}

func calendarOf(t *testing.T, in CalendarInput) CalendarResult {
	t.Helper()
	out, err := Calendar(in)
	if err != nil {
		t.Fatal(err)
	}
	return out
}

func TestOnePersonMakesReadyOneMachineAtATime(t *testing.T) {
	out := calendarOf(t, CalendarInput{NowH: 9, FreeH: []float64{9, 9, 12}, TurnaroundMin: 30, Hours: nineToSix, Prints: []Waiting{
		{Machine: 0, PrintS: 2 * 3600, AfterS: 1800}, {Machine: 1, PrintS: 20 * 3600}, {Machine: 0, PrintS: 3600, ExtraMin: 30}, {Machine: 2, PrintS: 7 * 3600},
	}})
	// Work on the first can begin at 11:30, when it is free; the third waits until that is done.
	want := []Slot{
		{TurnH: 9, StartH: 9.5, EndH: 11.5, OffH: 11.5, ReadyH: 12, InTime: true},
		{TurnH: 9.5, StartH: 10, EndH: 30, OffH: 33, ReadyH: 33, Alone: true, InTime: true},
		{TurnH: 11.5, StartH: 12.5, EndH: 13.5, OffH: 13.5, ReadyH: 13.5, InTime: true},
		{TurnH: 12.5, StartH: 13, EndH: 20, OffH: 33, ReadyH: 33, Alone: true, InTime: true},
	}
	for i, w := range want {
		if *out.Slots[i] != w {
			t.Errorf("print %d: %+v, want %+v", i, *out.Slots[i], w)
		}
	}
	if out.RunH != 30 || !quantity.Equal(out.AttendedH, 2.5) || out.ReadyH != 33 {
		t.Errorf("in all %+v", out)
	}
}

func TestWhatIsReadyByAnHour(t *testing.T) {
	// By Tuesday noon, an hour of washing and curing: the second is taken off by 11:00 on Tuesday, so
	// it begins Monday 18:00 at the latest (12 h), the first at 17:30 less its 4 h.
	by := 36.0
	in := CalendarInput{NowH: 9, FreeH: []float64{9}, TurnaroundMin: 30, Hours: nineToSix, ReadyByH: &by,
		Prints: []Waiting{{PrintS: 4 * 3600, AfterS: 3600}, {PrintS: 12 * 3600, AfterS: 3600}}}
	out := calendarOf(t, in)
	if got := *out.Slots[1].LatestH; got != 18 {
		t.Errorf("the second begins at %v at the latest, want 18", got)
	}
	if got := *out.Slots[0].LatestH; got != 13.5 {
		t.Errorf("the first begins at %v at the latest, want 13.5", got)
	}
	if !out.Slots[0].InTime || !out.Slots[1].InTime {
		t.Error("begun at nine, both are in time")
	}
	in.NowH, in.FreeH = 14, []float64{14}
	late := calendarOf(t, in)
	if !late.Slots[0].InTime || late.Slots[0].LatestH != nil || late.Slots[1].InTime || late.Slots[1].LatestH != nil {
		t.Errorf("begun at two, the first is ready on Tuesday at ten, what follows it too late: %+v %+v", late.Slots[0], late.Slots[1])
	}
}

// Whatever waits: nobody is at two machines at once, every start lies in attended hours, a
// machine prints one thing at a time, and the latest start is in time while a minute more is not.
func TestACalendarKeepsItsRules(t *testing.T) {
	chance := rand.New(rand.NewPCG(3, 5))
	for range 200 {
		by := 60 + 100*chance.Float64()
		in := CalendarInput{NowH: 30 * chance.Float64(), TurnaroundMin: 5 + 50*chance.Float64(), Hours: Hours{6 + 4*chance.Float64(), 15 + 8*chance.Float64(), 1 + chance.Int64N(7)}, ReadyByH: &by}
		for range 1 + chance.IntN(4) {
			in.FreeH = append(in.FreeH, 40*chance.Float64())
		}
		for range 1 + chance.IntN(8) {
			in.Prints = append(in.Prints, Waiting{chance.Int64N(int64(len(in.FreeH))), 600 + 80000*chance.Float64(), 20 * float64(chance.IntN(2)), 7200 * chance.Float64()})
		}
		out := calendarOf(t, in)
		for i, a := range out.Slots {
			if !in.Hours.Attended(a.TurnH) || !in.Hours.Attended(a.StartH) || !in.Hours.Attended(a.OffH) || a.OffH < a.EndH-1e-9 || a.TurnH < in.NowH-1e-9 {
				t.Fatalf("%+v: slot %d %+v", in, i, *a)
			}
			for j, b := range out.Slots[:i] {
				if a.TurnH < b.StartH-1e-9 && b.TurnH < a.StartH-1e-9 {
					t.Fatalf("prints %d and %d are made ready at once: %+v %+v", j, i, *b, *a)
				}
				if in.Prints[i].Machine == in.Prints[j].Machine && a.TurnH < b.EndH-1e-9 {
					t.Fatalf("print %d begins before %d has ended", i, j)
				}
			}
		}
		alone := in
		alone.Prints = in.Prints[len(in.Prints)-1:]
		slot, p := calendarOf(t, alone).Slots[0], alone.Prints[0]
		if (slot.LatestH != nil) != slot.InTime {
			t.Fatalf("alone on its machine, a print is in time as long as it can begin late enough: %+v", slot)
		}
		if slot.LatestH == nil {
			continue
		}
		at := *slot.LatestH
		if ready := alone.slot(p, at).ReadyH; ready > by+1e-6 {
			t.Fatalf("begun at %v it is ready at %v, after %v", at, ready, by)
		}
		later, _ := alone.Hours.Ready(at-alone.turnH(p)+1.0/60, alone.turnH(p))
		if ready := alone.slot(p, later).ReadyH; ready <= by-1e-6 && later-at < 0.02 {
			t.Fatalf("begun at %v, later than %v, it is still ready at %v", later, at, ready)
		}
	}
}

func TestWhatDoesNotFitADayIsSaid(t *testing.T) {
	out := calendarOf(t, CalendarInput{NowH: 9, FreeH: []float64{9, 9}, TurnaroundMin: 30, Hours: nineToSix,
		Prints: []Waiting{{PrintS: 3600, ExtraMin: 600}, {PrintS: 3600}, {Machine: 1, PrintS: 3600}}})
	if !out.Has("no_time") || out.Slots[0] != nil || out.Slots[1] != nil || out.Slots[2] == nil {
		t.Errorf("%+v", out)
	}
	for _, c := range []struct {
		field string
		in    CalendarInput
	}{
		{"prints[0].machine", CalendarInput{Hours: nineToSix, FreeH: []float64{0}, Prints: []Waiting{{Machine: 1, PrintS: 1}}}},
		{"prints[0].print_s", CalendarInput{Hours: nineToSix, FreeH: []float64{0}, Prints: []Waiting{{}}}},
		{"to_h", CalendarInput{Hours: Hours{9, 9, 5}}},
		{"days", CalendarInput{Hours: Hours{9, 18, 8}}},
	} {
		_, err := Calendar(c.in)
		var wrong *quantity.FieldError
		if !errors.As(err, &wrong) || wrong.Path != c.field {
			t.Errorf("%s: %v", c.field, err)
		}
	}
}

func TestWhatIsDoneTheSameDay(t *testing.T) {
	for _, c := range []struct {
		fixedS, perCopyS, afterS float64
		capacity, want           int64
	}{
		{3600, 1800, 0, 30, 15}, // 9 h less 30 min and an hour: 7.5 h, a half each
		{3600, 1800, 3600, 30, 13},
		{3600, 1800, 0, 8, 8},
		{9 * 3600, 1800, 0, 8, 0},
		{4 * 3600, 0, 0, 8, 8}, // a masked machine: as long for one as for eight
	} {
		if got := nineToSix.SameDay(30, c.fixedS, c.perCopyS, c.afterS, c.capacity); got != c.want {
			t.Errorf("%+v: %d", c, got)
		}
	}
}
