package plan

import (
	"ojime/internal/core/quantity"
	"ojime/internal/say"
)

// WeekInput is one plate, printed again and again through a week: how long it
// prints, how long someone must be there between two plates, and when they
// are: from FromH to ToH (hours of the day) on Days days of the week.
type WeekInput struct {
	PrintS        float64 `json:"print_s"`
	TurnaroundMin float64 `json:"turnaround_min"`
	FromH         float64 `json:"from_h"`
	ToH           float64 `json:"to_h"`
	Days          int64   `json:"days"`
	Copies        int64   `json:"copies"`
}

// WeekPrint is one print of the week, in hours since Monday 0:00.
type WeekPrint struct {
	StartH float64 `json:"start_h"`
	EndH   float64 `json:"end_h"`
}

// WeekResult is what the week carries. Overnight is how many of its plates end
// while nobody is there; WaitH is how long the machine stands still before a
// start.
type WeekResult struct {
	Plates    int64       `json:"plates"`
	Copies    int64       `json:"copies"`
	Overnight int64       `json:"overnight"`
	RunH      float64     `json:"run_h"`
	WaitH     float64     `json:"wait_h"`
	AttendedH float64     `json:"attended_h"`
	Prints    []WeekPrint `json:"prints"`
	quantity.Warnings
}

// Week starts a plate whenever someone is there and has turned the machine
// round, and lets it run through the night. It warns no_time when the
// turnaround is longer than an attended day.
func Week(in WeekInput) (WeekResult, error) {
	if c := in.checks(); c.Err() != nil {
		return WeekResult{}, c.Err()
	}
	out := WeekResult{Prints: []WeekPrint{}, Warnings: quantity.None()}
	turn, hours, there := in.TurnaroundMin/60, in.PrintS/3600, in.hours()
	for free := 0.0; ; {
		start, ok := there.Ready(free, turn)
		if !ok || start-turn >= hoursPerWeek {
			break
		}
		end := start + hours
		out.Prints = append(out.Prints, WeekPrint{start, end})
		out.Plates++
		out.RunH += hours
		out.AttendedH += turn
		out.WaitH += start - turn - free
		if !there.Attended(end) {
			out.Overnight++
		}
		free = end
		if len(out.Prints) > mostPrints {
			break
		}
	}
	out.Copies = out.Plates * in.Copies
	if out.Plates == 0 {
		out.Warn("no_time", "Turning the machine round takes %s min, longer than the attended day; no plate would start.", say.Figures(in.TurnaroundMin, 6))
	}
	return out, nil
}

func (in WeekInput) checks() (c quantity.Checks) {
	c.Above("print_s", in.PrintS)
	c.NotBelow("turnaround_min", in.TurnaroundMin)
	in.hours().check(&c)
	c.CountAbove("copies", in.Copies)
	return c
}

// mostPrints bounds the week of a print of seconds.
const mostPrints = 5000

func (in WeekInput) hours() Hours { return Hours{in.FromH, in.ToH, in.Days} }
