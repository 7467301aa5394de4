package compare

import (
	"fmt"
	"math"
	"strings"

	"ojime/internal/core/optics"
	"ojime/internal/say"
	"ojime/internal/work/kit"
	"ojime/internal/work/side"
)

// EyePair is one thing that two sides draw differently, and from where eyes tell it. Between
// is nil, with the reason in Says, where it cannot be computed.
type EyePair struct {
	A       int             `json:"a"`
	B       int             `json:"b"`
	What    string          `json:"what"`
	Between *optics.Between `json:"between"`
	Says    string          `json:"says"`
}

// eyesOf hold what each side draws with, its pixels or spot and its layer steps, against
// those of the side that it is compared with.
func eyesOf(sides []side.Prints, pairs [][2]int) ([]EyePair, error) {
	out := []EyePair{}
	for _, at := range pairs {
		a, b := sides[at[0]], sides[at[1]]
		if a.Reference != nil || b.Reference != nil {
			continue // what drew a reference is not known
		}
		pair := EyePair{A: at[0], B: at[1], What: "pitch or spot"}
		dotA, _, errA := kit.DotUM(a.Machine)
		dotB, _, errB := kit.DotUM(b.Machine)
		if errA != nil || errB != nil {
			unknown := a.Machine.Name
			if errA == nil {
				unknown = b.Machine.Name
			}
			pair.Says = fmt.Sprintf("%s against %s: the pixels of %s are not on record, so its pitch is not known.", side.Letter(at[0]), side.Letter(at[1]), unknown)
			out = append(out, pair)
		} else if err := pair.add(&out, dotA, dotB); err != nil {
			return nil, err
		}
		layerA, layerB := a.LayerUM(), b.LayerUM()
		if layerA == 0 || layerB == 0 {
			pair.What, pair.Says = "layer steps", fmt.Sprintf("%s against %s: a side holds prints of several layer heights, so its steps have no one depth.", side.Letter(at[0]), side.Letter(at[1]))
			out = append(out, pair)
			continue
		}
		for _, tilt := range optics.StepTilts {
			pair.What = fmt.Sprintf("layer steps on a face of %s°, in depth", say.Figure(tilt))
			depth := math.Cos(tilt * math.Pi / 180)
			if err := pair.add(&out, layerA*depth, layerB*depth); err != nil {
				return nil, err
			}
		}
	}
	return out, nil
}

// add puts a difference on the list; sizes that are alike have none.
func (p EyePair) add(out *[]EyePair, aUM, bUM float64) (err error) {
	if p.Between, err = optics.SightBetween(aUM, bUM); err != nil || p.Between == nil {
		return err
	}
	var from []string
	for _, s := range p.Between.Seen {
		if s.Verdict == "plain" || s.Verdict == "borderline" {
			from = append(from, s.Name)
		}
	}
	where := "from none of the usual places"
	if len(from) > 0 {
		where = strings.Join(from, ", ")
	}
	p.Says = fmt.Sprintf("%s against %s: %s against %s µm; within sight nearer than %s mm: %s.", side.Letter(p.A), side.Letter(p.B), say.Figure(aUM), say.Figure(bUM), say.Figure(p.Between.WithinMM), where)
	*out = append(*out, p)
	return nil
}
