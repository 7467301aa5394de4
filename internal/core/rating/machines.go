package rating

import (
	"fmt"
	"slices"

	"ojime/internal/say"
)

// MachineScale is what is judged of living with a machine, with an anchor in words for each
// score. Under says which conditions a score needs; empty where it needs none.
type MachineScale struct {
	Key     string        `json:"key"`
	Name    string        `json:"name"`
	Under   string        `json:"under"`
	Anchors [Steps]string `json:"anchors"`
	// Own says that the reviewer defined it.
	Own bool `json:"own"`
}

// OfMachines are the scales of living with a machine, in the order of a day with it: 4 is what
// most owners want.
var OfMachines = []MachineScale{
	{"noise", "Noise while printing", "from how far, and in which room", [Steps]string{
		"one leaves the room", "talk needs a raised voice", "heard over music", "heard when the room is still", "not heard"}, false},
	{"smell_kept_in", "Smell kept in", "how near, with what resin, and whether a window was open", [Steps]string{
		"the next room smells", "the room smells", "smelt beside the machine", "smelt with the lid open", "not smelt"}, false},
	{"lid", "Lid or cover", "", [Steps]string{
		"two hands and a free table", "two hands", "one hand, and care", "one hand", "one gloved finger, and it stays"}, false},
	{"vat", "Taking the vat out and in", "", [Steps]string{
		"spills or needs tools", "screws that stick", "screws by hand", "one lever, a second look", "one move, and it sits"}, false},
	{"pouring", "Pouring the vat out", "", [Steps]string{
		"runs down the outside", "drips on the way", "needs a steady hand", "clean with a funnel", "clean without one"}, false},
	{"plate", "Plate off, on and level", "", [Steps]string{
		"loses level each time", "level every few prints", "level after each cleaning", "level once a month", "never again since set up"}, false},
	{"cleaning", "Cleaning the machine", "", [Steps]string{
		"corners no cloth reaches", "resin stays in seams", "several cloths and a stick", "a cloth and patience", "one wipe"}, false},
	{"screen", "Screen and menus", "", [Steps]string{
		"does what was not asked", "hides what is needed", "found after a search", "found at once", "also with wet gloves"}, false},
	{"handing_over", "Handing files over", "", [Steps]string{
		"fails now and then", "one way alone, by hand", "works after a detour", "works", "works from anywhere, and says so"}, false},
	{"slicing", "Its own software", "", [Steps]string{
		"loses work", "stands in the way", "does the usual", "does the unusual too", "a reason to buy the machine"}, false},
	{"manual", "Manual and help", "", [Steps]string{
		"none, or wrong", "pictures alone", "covers setting up", "covers what goes wrong", "answers before one asks"}, false},
	{"service", "Spare parts and service", "when, and for what", [Steps]string{
		"no answer", "an answer that did not help", "helped after weeks", "helped within days", "helped at once"}, false},
}

// MachineScaleOf is a scale of machines by its key, among those given.
func MachineScaleOf(scales []MachineScale, key string) (MachineScale, bool) {
	i := slices.IndexFunc(scales, func(s MachineScale) bool { return s.Key == key })
	if i < 0 {
		return MachineScale{}, false
	}
	return scales[i], true
}

// Lived is what several ratings of one machine on one scale come to: the middle score, the
// lower of two that share the middle, with the lowest and the highest.
type Lived struct {
	Score  int64  `json:"score"`
	Low    int64  `json:"low"`
	High   int64  `json:"high"`
	N      int    `json:"n"`
	Raters int    `json:"raters"`
	Says   string `json:"says"`
}

// Live brings ratings of one machine on one scale together; nil where there is none. What one
// machine is like is what its raters say, and no sample of machines: it has no interval.
func (s MachineScale) Live(scores []int64, raters []string) *Lived {
	if len(scores) == 0 {
		return nil
	}
	sorted := slices.Sorted(slices.Values(scores))
	people := slices.Compact(slices.Sorted(slices.Values(raters)))
	out := Lived{Score: sorted[(len(sorted)-1)/2], Low: sorted[0], High: sorted[len(sorted)-1], N: len(sorted), Raters: len(people)}
	out.Says = fmt.Sprintf("%d of %d: %s", out.Score, Steps-1, s.Anchors[out.Score])
	if out.High > out.Low {
		out.Says += fmt.Sprintf(" (%d to %d)", out.Low, out.High)
	}
	out.Says += fmt.Sprintf(", n = %d by %s", out.N, say.Counted(int64(out.Raters), "person", "people"))
	return &out
}
