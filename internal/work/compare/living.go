package compare

import (
	"slices"
	"strings"

	"ojime/internal/core/rating"
	"ojime/internal/store"
	"ojime/internal/work/firstdays"
	"ojime/internal/work/side"
	"ojime/internal/work/task"
)

// Lived is a scale of living with machines over the sides; nil for one that nobody rated.
type Lived struct {
	Scale string          `json:"scale"`
	Name  string          `json:"name"`
	Sides []*rating.Lived `json:"sides"`
}

// Remarked is what people remarked about one thing of the machines of the sides, in words; empty where
// nothing is noted.
type Remarked struct {
	About string   `json:"about"`
	Sides []string `json:"sides"`
}

// remarkedOf sets what annoys and pleases of the machines of sides beside each other, by what it is about,
// in the order in which the sides weigh it. Where all sides are one machine there is nothing to set.
func remarkedOf(t *store.Tx, sides []side.Prints) ([]Remarked, error) {
	out := []Remarked{}
	of := task.Memoise(func(id string) (firstdays.Remarks, error) { return firstdays.RemarksOf(t, id) })
	machines := map[string]bool{}
	for j, s := range sides {
		if s.Reference != nil {
			continue
		}
		remarks, err := of(s.Machine.ID)
		if err != nil {
			return nil, err
		}
		machines[s.Machine.ID] = true
		for i, about := range remarks.About {
			at := slices.IndexFunc(out, func(r Remarked) bool { return r.About == about })
			if at < 0 {
				at, out = len(out), append(out, Remarked{about, make([]string, len(sides))})
			}
			out[at].Sides[j] = strings.TrimPrefix(remarks.Says[i], about+": ")
		}
	}
	if len(machines) < 2 {
		return []Remarked{}, nil
	}
	return out, nil
}

// livedOf are the scales on which machines of sides were rated. Where all sides are one
// machine, there is nothing to hold against each other.
func livedOf(t *store.Tx, sides []side.Prints) ([]Lived, error) {
	out := []Lived{}
	of := task.Memoise(func(id string) (firstdays.Living, error) { return firstdays.LivingOf(t, id) })
	machines := map[string]bool{}
	living := make([]firstdays.Living, len(sides))
	var scales []firstdays.LivedOn
	for j, s := range sides {
		if s.Reference != nil {
			continue
		}
		var err error
		if living[j], err = of(s.Machine.ID); err != nil {
			return nil, err
		}
		machines[s.Machine.ID], scales = true, living[j].Scales
	}
	for i, on := range scales {
		row, rated := Lived{Scale: on.Scale.Key, Name: on.Scale.Name, Sides: make([]*rating.Lived, len(sides))}, false
		for j := range sides {
			if len(living[j].Scales) > 0 {
				row.Sides[j] = living[j].Scales[i].Lived
				rated = rated || row.Sides[j] != nil
			}
		}
		if rated && len(machines) > 1 {
			out = append(out, row)
		}
	}
	return out, nil
}
