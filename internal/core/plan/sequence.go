package plan

import (
	"fmt"

	"ojime/internal/core/quantity"
)

// SequencePrint is one print of a sequence: how long it prints, in s, and what has to be
// done before it besides turning the machine round, in min (a change of resin, say).
type SequencePrint struct {
	PrintS   float64 `json:"print_s"`
	ExtraMin float64 `json:"extra_min"`
}

// SequenceInput is the prints of one machine in their order and the reviewer's week, as
// in WeekInput.
type SequenceInput struct {
	Prints        []SequencePrint `json:"prints"`
	TurnaroundMin float64         `json:"turnaround_min"`
	FromH         float64         `json:"from_h"`
	ToH           float64         `json:"to_h"`
	Days          int64           `json:"days"`
}

// SequenceResult says when each print begins and ends, in hours since Monday 0:00, how
// long they print, and how long someone must be there.
type SequenceResult struct {
	Prints    []WeekPrint `json:"prints"`
	RunH      float64     `json:"run_h"`
	AttendedH float64     `json:"attended_h"`
	EndH      float64     `json:"end_h"`
	quantity.Warnings
}

// Sequence prints one plate after another, week after week: each begins when someone is
// there and has made the machine ready, and runs through the night. It warns no_time when
// what precedes a print is longer than an attended day; nothing after that is laid out.
func Sequence(in SequenceInput) (SequenceResult, error) {
	week := WeekInput{TurnaroundMin: in.TurnaroundMin, FromH: in.FromH, ToH: in.ToH, Days: in.Days, PrintS: 1, Copies: 1}
	c := week.checks()
	for i, p := range in.Prints {
		c.Above(fmt.Sprintf("prints[%d].print_s", i), p.PrintS)
		c.NotBelow(fmt.Sprintf("prints[%d].extra_min", i), p.ExtraMin)
	}
	if c.Err() != nil {
		return SequenceResult{}, c.Err()
	}
	out := SequenceResult{Prints: []WeekPrint{}, Warnings: quantity.None()}
	free := 0.0
	for _, p := range in.Prints {
		turn := (in.TurnaroundMin + p.ExtraMin) / 60
		start, ok := week.hours().Ready(free, turn)
		if !ok {
			out.Warn("no_time", "Making the machine ready takes longer than an attended day; no such print would start.")
			break
		}
		end := start + p.PrintS/3600
		out.Prints = append(out.Prints, WeekPrint{start, end})
		out.RunH, out.AttendedH, out.EndH = out.RunH+p.PrintS/3600, out.AttendedH+turn, end
		free = end
	}
	return out, nil
}
