package planning

import (
	"fmt"

	"ojime/internal/bench"
	"ojime/internal/core/plan"
	"ojime/internal/core/quantity"
	"ojime/internal/core/timing"
	"ojime/internal/say"
	"ojime/internal/store"
)

// weekOf is a week of full plates of one piece by the reviewer's hours.
// The interval of the time of one piece carries over to what a week makes.
func weekOf(t *store.Tx, p bench.Profile, load timing.Load, onePI *quantity.Interval) (*FillWeek, error) {
	settings, err := t.Settings()
	if err != nil {
		return nil, err
	}
	label, err := t.Resin(p.ResinID)
	if err != nil {
		return nil, err
	}
	after, err := AfterOf(t, label, nil, nil)
	if err != nil {
		return nil, err
	}
	hours := plan.Hours{FromH: settings.AttendedFromH, ToH: settings.AttendedToH, Days: settings.AttendedDays}
	fullS := load.FixedS + load.PerCopyS*float64(load.Capacity)
	in := plan.WeekInput{PrintS: fullS, TurnaroundMin: settings.TurnaroundMin, FromH: hours.FromH, ToH: hours.ToH, Days: hours.Days, Copies: load.Capacity}
	week, err := plan.Week(in)
	if err != nil {
		return nil, err
	}
	between, err := weekRange(in, onePI, load.FixedS+load.PerCopyS)
	if err != nil {
		return nil, err
	}
	out := &FillWeek{Copies: week.Copies, CopiesPI: between, Plates: week.Plates, Overnight: week.Overnight, RunH: week.RunH, AttendedH: week.AttendedH, WaitH: week.WaitH, After: after}
	out.SameDay = hours.SameDay(settings.TurnaroundMin, load.FixedS, load.PerCopyS, after.S, load.Capacity)
	out.Says = out.words(hours, load.Capacity)
	return out, nil
}

// weekRange is the fewest and the most pieces of a week over the interval of the time of one piece; nil where that has none.
func weekRange(in plan.WeekInput, onePI *quantity.Interval, oneS float64) (*quantity.Interval, error) {
	if onePI == nil {
		return nil, nil
	}
	out := quantity.Interval{}
	printS := in.PrintS
	for i, s := range []float64{onePI[1], onePI[0]} {
		in.PrintS = printS * s / oneS
		week, err := plan.Week(in)
		if err != nil {
			return nil, err
		}
		out[i] = float64(week.Copies)
	}
	return &out, nil
}

func (w FillWeek) words(hours plan.Hours, capacity int64) string {
	from := Clock(hours.FromH)
	pieces := say.Counted(w.Copies, "piece")
	if w.CopiesPI != nil {
		pieces += fmt.Sprintf(" (%s to %s)", say.Whole(w.CopiesPI[0]), say.Whole(w.CopiesPI[1]))
	}
	words := fmt.Sprintf("%s a week on %s", pieces, say.Counted(w.Plates, "full plate"))
	switch {
	case w.SameDay == 0:
		return words + fmt.Sprintf("; begun at %s, not even one is ready the same day.", from)
	case w.SameDay == capacity:
		return words + fmt.Sprintf("; begun at %s, a full plate of %d is ready the same day.", from, capacity)
	}
	return words + fmt.Sprintf("; begun at %s, ready the same day only up to %s.", from, say.Counted(w.SameDay, "copy", "copies"))
}

// Clock is an hour of the day as a clock shows it: 9:30.
func Clock(hour float64) string {
	minutes := int64(hour*60 + 0.5)
	return fmt.Sprintf("%d:%02d", minutes/60, minutes%60)
}
