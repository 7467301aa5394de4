package plan

import (
	"fmt"
	"math"

	"ojime/internal/core/quantity"
)

// Waiting is a print that waits on a machine (its place among FreeH): how long it prints, in
// s; what has to be done before it besides turning the machine round, in min; and how long
// after it is taken off until the parts are clean, dry and cured, in s.
type Waiting struct {
	Machine  int64   `json:"machine"`
	PrintS   float64 `json:"print_s"`
	ExtraMin float64 `json:"extra_min"`
	AfterS   float64 `json:"after_s"`
}

// CalendarInput is the prints that wait on several machines, looked after by one person.
// NowH is now, FreeH when what prints on each machine ends, ReadyByH when all must be ready
// (nil: no such hour); all in hours since a Monday 0:00. Prints of one machine stand in
// their order.
type CalendarInput struct {
	NowH          float64   `json:"now_h"`
	FreeH         []float64 `json:"free_h"`
	Prints        []Waiting `json:"prints"`
	TurnaroundMin float64   `json:"turnaround_min"`
	Hours         Hours     `json:"hours"`
	ReadyByH      *float64  `json:"ready_by_h"`
}

// Slot is one print in the calendar, in hours since the Monday 0:00: when work on the
// machine begins, when it prints, when someone is there to take it off, and when its parts
// are ready. Alone says that it ends while nobody is there. InTime says whether it is ready by
// the hour asked for, LatestH when it must begin to print at the latest so that it and all that
// follow on its machine are; nil where no hour was asked for, and where that cannot be any more.
type Slot struct {
	TurnH   float64  `json:"turn_h"`
	StartH  float64  `json:"start_h"`
	EndH    float64  `json:"end_h"`
	OffH    float64  `json:"off_h"`
	ReadyH  float64  `json:"ready_h"`
	Alone   bool     `json:"alone"`
	LatestH *float64 `json:"latest_h"`
	InTime  bool     `json:"in_time"`
}

// CalendarResult is a slot a print, in the order of the prints; nil where what precedes one
// takes longer than an attended day, and for all that wait behind it.
type CalendarResult struct {
	Slots     []*Slot `json:"slots"`
	RunH      float64 `json:"run_h"`
	AttendedH float64 `json:"attended_h"`
	ReadyH    float64 `json:"ready_h"`
	quantity.Warnings
}

// Calendar gives the next turn to the machine at which work can begin first, since one person
// makes ready one machine at a time; where several can, to the one that has stood free longest,
// and then to the one that stands first. It warns no_time where
// making a machine ready takes longer than an attended day.
func Calendar(in CalendarInput) (CalendarResult, error) {
	if err := in.check(); err != nil {
		return CalendarResult{}, err
	}
	out := CalendarResult{Slots: make([]*Slot, len(in.Prints)), Warnings: quantity.None()}
	queues := in.queues()
	free, person := append([]float64{}, in.FreeH...), in.NowH
	for {
		machine, start := in.first(queues, free, person)
		if machine < 0 {
			break
		}
		at := queues[machine][0]
		queues[machine] = queues[machine][1:]
		slot := in.slot(in.Prints[at], start)
		out.Slots[at] = &slot
		out.RunH += slot.EndH - slot.StartH
		out.AttendedH += slot.StartH - slot.TurnH
		out.ReadyH = math.Max(out.ReadyH, slot.ReadyH)
		free[machine], person = slot.EndH, start
	}
	for _, q := range queues {
		if len(q) > 0 {
			out.Warn("no_time", "Making a machine ready takes longer than an attended day; such a print, and what waits behind it, would not start.")
			break
		}
	}
	in.deadline(out.Slots)
	return out, nil
}

func (in CalendarInput) check() error {
	var c quantity.Checks
	c.NotBelow("now_h", in.NowH)
	c.NotBelow("turnaround_min", in.TurnaroundMin)
	in.Hours.check(&c)
	for i, h := range in.FreeH {
		c.NotBelow(fmt.Sprintf("free_h[%d]", i), h)
	}
	for i, p := range in.Prints {
		c.Above(fmt.Sprintf("prints[%d].print_s", i), p.PrintS)
		c.NotBelow(fmt.Sprintf("prints[%d].extra_min", i), p.ExtraMin)
		c.NotBelow(fmt.Sprintf("prints[%d].after_s", i), p.AfterS)
		if p.Machine < 0 || p.Machine >= int64(len(in.FreeH)) {
			c.Fail(fmt.Sprintf("prints[%d].machine", i), "is %d; there are %d machines, counted from 0", p.Machine, len(in.FreeH))
		}
	}
	if in.ReadyByH != nil {
		c.NotBelow("ready_by_h", *in.ReadyByH)
	}
	return c.Err()
}

// queues are the places of the prints of each machine, in their order.
func (in CalendarInput) queues() [][]int {
	out := make([][]int, len(in.FreeH))
	for i, p := range in.Prints {
		out[p.Machine] = append(out[p.Machine], i)
	}
	return out
}

func (in CalendarInput) turnH(p Waiting) float64 { return (in.TurnaroundMin + p.ExtraMin) / 60 }

// first is the machine whose turn it is, and when its next print can begin; -1 where none can.
func (in CalendarInput) first(queues [][]int, free []float64, person float64) (machine int, start float64) {
	machine = -1
	var begin float64
	for m, q := range queues {
		if len(q) == 0 {
			continue
		}
		turn := in.turnH(in.Prints[q[0]])
		at, ok := in.Hours.Ready(math.Max(math.Max(free[m], person), in.NowH), turn)
		sooner := machine < 0 || at-turn < begin-atBench || (at-turn < begin+atBench && free[m] < free[machine]-atBench)
		if ok && sooner {
			machine, start, begin = m, at, at-turn
		}
	}
	return machine, start
}

func (in CalendarInput) slot(p Waiting, start float64) Slot {
	end := start + p.PrintS/3600
	off := in.Hours.Next(end)
	return Slot{TurnH: start - in.turnH(p), StartH: start, EndH: end, OffH: off, ReadyH: off + p.AfterS/3600, Alone: !in.Hours.Attended(end), InTime: true}
}

// deadline goes back from the hour by which all must be ready: the last print of a machine
// first, each that precedes it must end before the next one's machine is made ready.
func (in CalendarInput) deadline(slots []*Slot) {
	if in.ReadyByH == nil {
		return
	}
	next := map[int64]float64{} // when the print that follows on a machine needs it
	for i := len(slots) - 1; i >= 0; i-- {
		p, slot := in.Prints[i], slots[i]
		if slot == nil {
			continue
		}
		off := in.Hours.Last(*in.ReadyByH - p.AfterS/3600)
		if needed, follows := next[p.Machine]; follows {
			off = math.Min(off, needed)
		}
		latest := in.Hours.latest(off-p.PrintS/3600, in.turnH(p))
		slot.InTime = slot.ReadyH <= *in.ReadyByH+atBench
		if slot.StartH <= latest+atBench {
			slot.LatestH = &latest
		}
		next[p.Machine] = latest - in.turnH(p)
	}
}
