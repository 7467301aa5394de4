package plan

import (
	"math"

	"ojime/internal/core/quantity"
	"ojime/internal/say"
)

// Hours are when someone is at the bench: from FromH to ToH (hours of the day, 0 to 24) on
// the first Days days of a week that begins on Monday (1 to 7). Times are in hours since a
// Monday 0:00, of any week after it.
type Hours struct {
	FromH float64 `json:"from_h"`
	ToH   float64 `json:"to_h"`
	Days  int64   `json:"days"`
}

// atBench is by how much an hour may miss the end of a day, for rounding.
const atBench = 1e-9

const (
	hoursPerDay, daysPerWeek = 24, 7
	hoursPerWeek             = hoursPerDay * daysPerWeek
)

func (h Hours) check(c *quantity.Checks) {
	c.NotBelow("from_h", h.FromH)
	if h.ToH <= h.FromH || h.ToH > hoursPerDay {
		c.Fail("to_h", "is %s; it lies after the hour at which the day begins and at most at 24", say.Figures(h.ToH, 6))
	}
	if h.Days < 1 || h.Days > daysPerWeek {
		c.Fail("days", "is %d; a week has 1 to 7 attended days", h.Days)
	}
}

// day is the number of the day in which an hour lies, and the hour at which it begins.
func (h Hours) day(at float64) (number int, begin float64) {
	number = int(math.Floor(at / hoursPerDay))
	return number, float64(number) * hoursPerDay
}

func (h Hours) attends(day int) bool {
	return ((day%daysPerWeek)+daysPerWeek)%daysPerWeek < int(h.Days)
}

// Attended reports whether someone is there at an hour.
func (h Hours) Attended(at float64) bool {
	day, begin := h.day(at)
	return h.attends(day) && at-begin >= h.FromH-atBench && at-begin <= h.ToH+atBench
}

// Next is the first hour at or after one at which someone is there.
func (h Hours) Next(at float64) float64 {
	next, _ := h.Ready(at, 0)
	return next
}

// Last is the latest hour at or before one at which someone is there.
func (h Hours) Last(at float64) float64 { return h.latest(at, 0) }

// Ready is the first hour at or after free by which turnH hours of work were done in one
// stretch; false where no attended day is as long.
func (h Hours) Ready(free, turnH float64) (float64, bool) {
	if turnH > h.ToH-h.FromH+atBench {
		return 0, false
	}
	for day, begin := h.day(free); ; day, begin = day+1, begin+hoursPerDay {
		from := math.Max(free, begin+h.FromH)
		if h.attends(day) && from+turnH <= begin+h.ToH+atBench {
			return from + turnH, true
		}
	}
}

// latest is the latest hour at or before one by which turnH hours of work, which fit a day,
// can have been done in one stretch.
func (h Hours) latest(at, turnH float64) float64 {
	for day, begin := h.day(at); ; day, begin = day-1, begin-hoursPerDay {
		to := math.Min(at, begin+h.ToH)
		if h.attends(day) && to-turnH >= begin+h.FromH-atBench {
			return to
		}
	}
}

// SameDay is how many copies can be begun when the day begins and be done before it ends:
// the machine is made ready in turnaroundMin, prints fixedS and perCopyS for each copy (in
// s), up to capacity copies, and what comes after the print takes afterS. 0 where not even
// one is.
func (h Hours) SameDay(turnaroundMin, fixedS, perCopyS, afterS float64, capacity int64) int64 {
	left := (h.ToH-h.FromH)*3600 - turnaroundMin*60 - afterS - fixedS
	switch {
	case left < perCopyS || capacity < 1:
		return 0
	case perCopyS*float64(capacity) <= left:
		return capacity
	}
	return int64(left/perCopyS + atBench)
}
