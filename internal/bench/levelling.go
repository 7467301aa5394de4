package bench

import (
	"fmt"
	"slices"

	"ojime/internal/core/machine"
	"ojime/internal/core/quantity"
	"ojime/internal/say"
)

// Levelling is how a machine was levelled on a day: how it is done on this machine, what its
// corners read before and after (mm, from the front left to the right, then the back; none where
// they were not read), its zero, and what the first layer then looked like. With an even first
// layer the level is verified, until one of Ends happens. It belongs to a knot that says so.
type Levelling struct {
	ID             string   `json:"id" required:"false" readOnly:"true"`
	MachineID      string   `json:"machine_id" required:"false" readOnly:"true"`
	MachineEventID string   `json:"machine_event_id" required:"false" readOnly:"true"`
	Version        int64    `json:"version" required:"false" readOnly:"true"`
	AtMS           int64    `json:"at_ms" required:"false"`
	How            string   `json:"how" required:"false"`
	BeforeMM       Sizes    `json:"before_mm" required:"false" maxItems:"16"`
	AfterMM        Sizes    `json:"after_mm" required:"false" maxItems:"16"`
	ZeroMM         *float64 `json:"zero_mm" required:"false"`
	FirstLayer     string   `json:"first_layer" required:"false" enum:",even,uneven,let_go"`
	FirstLayerNote string   `json:"first_layer_note" required:"false"`
	Ends           IDs      `json:"ends" required:"false"`
	TakenBackMS    *int64   `json:"taken_back_ms" required:"false" readOnly:"true"`
	TakenBackWhy   string   `json:"taken_back_why" required:"false" readOnly:"true"`
}

// LevelEnds are the kinds of knot after which a verified level usually holds no more.
var LevelEnds = IDs{machine.Move, "incident", machine.Film, machine.Panel, "plate_surface"}

// mostCornerMM is how far a corner can be from flat, in mm: more is a unit that was mistaken.
const mostCornerMM = 20

// Check says what makes no sense about a levelling.
func (l Levelling) Check() error {
	var c quantity.Checks
	for _, side := range []struct {
		name string
		mm   Sizes
	}{{"before_mm", l.BeforeMM}, {"after_mm", l.AfterMM}} {
		if n := len(side.mm); n == 1 {
			c.Fail(side.name, "holds one corner; read all of them, or none")
		}
		for i, mm := range side.mm {
			if mm > mostCornerMM || mm < -mostCornerMM {
				c.Fail(fmt.Sprintf("%s[%d]", side.name, i), "is %g mm; a corner is at most %d mm from flat, check its unit", mm, mostCornerMM)
			}
		}
	}
	for i, kind := range l.Ends {
		if !slices.Contains(LevelEnds, kind) {
			c.Fail(fmt.Sprintf("ends[%d]", i), "is %q; use one of %v", kind, LevelEnds)
		}
	}
	return c.Err()
}

// Verified says that its first layer was even, and that it still stands.
func (l Levelling) Verified() bool { return l.FirstLayer == "even" && l.TakenBackMS == nil }

// Words are a levelling in a sentence.
func (l Levelling) Words() string {
	out := ""
	add := func(words string) {
		if out != "" {
			out += "; "
		}
		out += words
	}
	for _, side := range []struct {
		name string
		mm   Sizes
	}{{"before", l.BeforeMM}, {"after", l.AfterMM}} {
		if len(side.mm) > 1 {
			add(fmt.Sprintf("corners within %s mm %s", say.Figure(slices.Max(side.mm)-slices.Min(side.mm)), side.name))
		}
	}
	if l.ZeroMM != nil {
		add("zero " + say.Figure(*l.ZeroMM) + " mm")
	}
	layer := map[string]string{"": "first layer not looked at", "even": "first layer even: verified", "uneven": "first layer uneven", "let_go": "first layer let go"}[l.FirstLayer]
	if l.FirstLayerNote != "" {
		layer += " (" + l.FirstLayerNote + ")"
	}
	add(layer)
	return out
}
