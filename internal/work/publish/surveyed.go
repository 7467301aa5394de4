package publish

import (
	"slices"

	"ojime/internal/bench"
	"ojime/internal/store"
	"ojime/internal/work/kit"
	"ojime/internal/work/reviews"
)

// surveyed is what was found usable of a machine's plate beside what is claimed of it, and how even
// its light is, empty where that was not measured.
type surveyed struct {
	Machine bench.Machine
	Usable  bench.Usable
	Light   string
}

// surveyedOf are the machines of a review whose plates or light were looked at, in the order of its
// set-ups.
func surveyedOf(t *store.Tx, setups []reviews.SetUp) (out []surveyed, err error) {
	var seen []string
	for _, s := range setups {
		if s.MachineID == "" || slices.Contains(seen, s.MachineID) {
			continue
		}
		seen = append(seen, s.MachineID)
		m, err := t.Machine(s.MachineID)
		if err != nil {
			return nil, err
		}
		usable, err := kit.UsableOf(t, m)
		if err != nil {
			return nil, err
		}
		light, err := kit.LightOf(t, m.ID)
		if err != nil {
			return nil, err
		}
		if one := (surveyed{Machine: m, Usable: usable}); usable.Verified != nil || light.Now != nil {
			if light.Now != nil {
				one.Light = light.Says
			}
			out = append(out, one)
		}
	}
	return out, nil
}
