package contest

import (
	"cmp"
	"fmt"
	"slices"

	"ojime/internal/say"
)

// FaultSeen is a symptom on one copy: the side (or whatever it is counted by), the print by
// any number that is its own there, and what the symptom is called.
type FaultSeen struct {
	Side    int
	Print   int
	Symptom string
}

// What faults are counted by.
const (
	BySide     = "side"
	ByMachine  = "machine"
	ByResin    = "resin"
	ByPiece    = "piece"
	BySoftware = "software"
)

// sharedBy is where to look first for what all of them show: in what they share.
var sharedBy = map[string]string{
	BySide: "on every side: look at the file or its supports first", ByMachine: "on every machine: look at the file or its supports first",
	ByResin: "with every resin: look at the file, its supports or the machine first", ByPiece: "on every piece: look at the machine, the resin or the settings first",
	BySoftware: "with all software: look at the machine, the resin or the settings first",
}

// Fault is a symptom over the sides of a comparison: on how many specimens and on how many
// prints of each it was seen, and what that says.
type Fault struct {
	Symptom string      `json:"symptom"`
	Sides   []FaultSide `json:"sides"`
	Says    string      `json:"says"`
}

// FaultSide is a symptom on one side; Of are the prints of that side that were judged.
type FaultSide struct {
	Specimens int64 `json:"specimens"`
	Prints    int64 `json:"prints"`
	Of        int64 `json:"of"`
}

// Faults counts symptoms over the sides, or over whatever else by says, the commonest first;
// judged are the judged prints of each. A blemish counts as an effect when it repeats on another print of a side:
// what was seen on one print is a fluke until then. What all sides show is looked for in
// what they share.
func Faults(by string, seen []FaultSeen, judged []int64, names []string) []Fault {
	out := []Fault{}
	prints := map[string]map[[2]int]bool{}
	for _, f := range seen {
		at := slices.IndexFunc(out, func(o Fault) bool { return o.Symptom == f.Symptom })
		if at < 0 {
			one := Fault{Symptom: f.Symptom, Sides: make([]FaultSide, len(judged))}
			for i, of := range judged {
				one.Sides[i].Of = of
			}
			at, out, prints[f.Symptom] = len(out), append(out, one), map[[2]int]bool{}
		}
		side := &out[at].Sides[f.Side]
		side.Specimens++
		if key := [2]int{f.Side, f.Print}; !prints[f.Symptom][key] {
			prints[f.Symptom][key] = true
			side.Prints++
		}
	}
	for i := range out {
		out[i].Says = out[i].says(by, names)
	}
	slices.SortStableFunc(out, func(a, b Fault) int {
		return cmp.Or(cmp.Compare(b.total(), a.total()), cmp.Compare(a.Symptom, b.Symptom))
	})
	return out
}

func (f Fault) total() (n int64) {
	for _, s := range f.Sides {
		n += s.Specimens
	}
	return n
}

func (f Fault) says(by string, names []string) string {
	var on, repeats []string
	judged := 0
	for i, s := range f.Sides {
		if s.Of > 0 {
			judged++
		}
		if s.Prints > 0 {
			on = append(on, names[i])
		}
		if s.Prints > 1 {
			repeats = append(repeats, names[i])
		}
	}
	switch {
	case len(on) > 1 && len(on) == judged:
		return sharedBy[by]
	case len(repeats) == 0 && len(on) == 1:
		return fmt.Sprintf("on one print of %s alone: a fluke until it repeats", on[0])
	case len(repeats) == 0:
		return fmt.Sprintf("on one print each of %s: it is no one %s's", say.List(on), by)
	case len(on) == 1:
		return fmt.Sprintf("only on %s, on %s: it repeats", on[0], say.Counted(f.onlyPrints(), "print"))
	}
	return fmt.Sprintf("on %s; it repeats on %s", say.List(on), say.List(repeats))
}

// onlyPrints is on how many prints a symptom of one side was seen.
func (f Fault) onlyPrints() (n int64) {
	for _, s := range f.Sides {
		n += s.Prints
	}
	return n
}
