package machine

import "math"

// Age is how much a film or a source of light had seen before a print and after it;
// NaN where that is not known. Life numbers the films or panels of a machine.
type Age struct {
	Before, After float64
	Life          int
}

// FilmAges are the ages of the film, in layers, of prints.
func (h History) FilmAges(prints []Print) []Age { return h.ages(film, prints) }

// LightAges are the ages of the source of light, in hours, of prints.
func (h History) LightAges(prints []Print) []Age { return h.ages(light, prints) }

func (h History) ages(p part, prints []Print) []Age {
	out := make([]Age, len(prints))
	for i, print := range prints {
		age := Age{Before: math.NaN(), After: math.NaN()}
		if w := h.wear(p, print.StartMS); w.Amount != nil {
			used := total{layers: float64(print.Layers)}
			if print.LightS == nil {
				used.lightS = math.NaN()
			} else {
				used.lightS = *print.LightS
			}
			age.Before = *w.Amount
			age.After = age.Before + p.took(used)
		}
		for _, k := range h.knots {
			if k.AtMS <= print.StartMS && k.Is(p.kind) {
				age.Life++
			}
		}
		out[i] = age
	}
	return out
}
