package compare

import (
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
