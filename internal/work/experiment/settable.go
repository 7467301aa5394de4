package experiment

import (
	"slices"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/work/kit"
	"ojime/internal/work/task"
)

// Factors that a plan sets by choosing among what the review names.
const (
	machineFactor = "machine"
	resinFactor   = "resin"
)

// making is a print while its plan makes it: its settings, its plate, and the scale of
// what lies on it.
type making struct {
	profile  bench.Profile
	plate    bench.Plate
	scalePct float64
}

// setters set a factor to a level as people write it. What is missing here is fitted to a
// machine, or happens: no plan sets it.
var setters = map[string]func(m *making, words string) error{
	"layer_um":        number("µm", func(m *making, v float64) { m.profile.LayerUM = v }),
	"exposure_s":      number("s", func(m *making, v float64) { m.profile.ExposureS = &v }),
	"light_power_pct": number("%", func(m *making, v float64) { m.profile.LightPowerPct = &v }),
	"bottom_dose_s":   setBottomDose,
	"antialiasing": func(m *making, words string) error {
		m.profile.Antialiasing, m.profile.Options = words, nil
		return nil
	},
	motionPart + "lift":          moves(func(m *making, v bench.Moves) { m.profile.Lift, m.profile.ReleaseS = v, nil }),
	motionPart + "retract":       moves(func(m *making, v bench.Moves) { m.profile.Retract, m.profile.ReleaseS = v, nil }),
	motionPart + "release_s":     number("s", func(m *making, v float64) { m.profile.ReleaseS, m.profile.Lift, m.profile.Retract = &v, nil, nil }),
	motionPart + "wait_before_s": number("s", func(m *making, v float64) { m.profile.WaitBeforeS = &v }),
	motionPart + "wait_after_s":  number("s", func(m *making, v float64) { m.profile.WaitAfterS = &v }),
	motionPart + "wait_lift_s":   number("s", func(m *making, v float64) { m.profile.WaitLiftS = &v }),
	"scale_pct":                  number("%", func(m *making, v float64) { m.scalePct = v }),
	"orientation":                func(m *making, words string) error { m.plate.Orientation = &words; return nil },
	"supports":                   func(m *making, words string) error { m.plate.Supports = &words; return nil },
	"wash_s":                     number("s", func(m *making, v float64) { m.plate.WashS = &v }),
	"cure_s":                     number("s", func(m *making, v float64) { m.plate.CureS = &v }),
	"software":                   func(m *making, words string) error { m.plate.Software = words; return nil },
}

// inSettings reports a factor that settings set, not the plate.
func inSettings(key string) bool {
	return strings.HasPrefix(key, motionPart) || slices.Contains([]string{"layer_um", "exposure_s", "light_power_pct", "bottom_dose_s", "antialiasing"}, key)
}

func settable(key string) bool {
	return setters[key] != nil || key == machineFactor || key == resinFactor
}

func number(unit string, set func(*making, float64)) func(*making, string) error {
	return func(m *making, words string) error {
		v, err := bench.ParseQuantity(words, unit)
		if err == nil {
			set(m, v)
		}
		return err
	}
}

func moves(set func(*making, bench.Moves)) func(*making, string) error {
	return func(m *making, words string) error {
		v, err := bench.ParseMoves(words)
		if err == nil {
			set(m, v)
		}
		return err
	}
}

// setBottomDose reaches a dose by the exposure of the bottom layers that there are.
func setBottomDose(m *making, words string) error {
	dose, err := bench.ParseQuantity(words, "s")
	if err != nil {
		return err
	}
	layers := quantity.Or(m.profile.BottomLayers, 0)
	if layers < 1 {
		return quantity.Errorf("value", "of %s cannot be reached: %s has no bottom layers", words, kit.SettingsName(m.profile))
	}
	m.profile.BottomExposureS = quantity.Ptr(dose / float64(layers))
	return nil
}

// set brings what is being made to a level. Anti-aliasing that is on record is taken whole,
// with its values.
func (m *making) set(key, words string, known []bench.Profile) error {
	if key == "antialiasing" {
		for _, p := range known {
			if kit.AntialiasingWords(p) == words {
				m.profile.Antialiasing, m.profile.Options = p.Antialiasing, p.Options
				return nil
			}
		}
	}
	return task.WithoutPrefix("value", setters[key](m, strings.TrimSpace(words)))
}
