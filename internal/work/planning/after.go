package planning

import (
	"strings"

	"ojime/internal/bench"
	"ojime/internal/core/stats"
	"ojime/internal/say"
	"ojime/internal/store"
)

// How long a step after a print usually takes, in s, where nothing says otherwise.
const (
	UsualDripS = 10 * 60
	UsualDryS  = 20 * 60
)

// AfterPrint is how long it takes from the plate until parts are clean, dry and cured, in s,
// and where each step's time is from.
type AfterPrint struct {
	S    float64 `json:"s"`
	Says string  `json:"says"`
}

// afterKinds are the steps after a print in their order, with what they are called.
var afterKinds = []struct{ kind, word string }{{"drip", "dripping"}, {"wash", "wash"}, {"dry", "drying"}, {"supports", "supports"}, {"cure", "cure"}}

// AfterOf foretells what comes after a print in a resin: a wash and a cure as they are planned
// for it, else the median of those on record in this resin, else what its label states; a step
// that none of these knows is left out and named.
func AfterOf(t *store.Tx, label bench.Resin, washS, cureS *float64) (AfterPrint, error) {
	took, err := tookAfter(t, label.ID)
	if err != nil {
		return AfterPrint{}, err
	}
	planned := map[string]*float64{"wash": washS, "cure": cureS}
	stated := map[string]*float64{"wash": label.StatedWashS, "cure": label.StatedCureS}
	usual := map[string]float64{"drip": UsualDripS, "dry": UsualDryS}
	var out AfterPrint
	var words, unknown []string
	for _, k := range afterKinds {
		s, from := 0.0, ""
		switch {
		case planned[k.kind] != nil:
			s, from = *planned[k.kind], "as planned"
		case len(took[k.kind]) > 0:
			s, from = stats.Median(took[k.kind]), "median of "+say.Whole(float64(len(took[k.kind])))
		case stated[k.kind] != nil && *stated[k.kind] > 0:
			s, from = *stated[k.kind], "stated"
		case usual[k.kind] > 0:
			s, from = usual[k.kind], "usual"
		default:
			unknown = append(unknown, k.word)
			continue
		}
		out.S += s
		words = append(words, k.word+" "+say.Duration(s)+" ("+from+")")
	}
	out.Says = strings.Join(words, ", ")
	if len(unknown) > 0 {
		out.Says += "; not known and left out: " + say.List(unknown)
	}
	return out, nil
}

// latePrints is how many of the last prints in a resin say how long its steps take.
const latePrints = 50

// tookAfter are the times of the steps on record after the last prints in a resin, by kind.
func tookAfter(t *store.Tx, resinID string) (map[string][]float64, error) {
	return store.Once(t, tookAfterKey{resinID}, func() (map[string][]float64, error) { return tookAfterOf(t, resinID) })
}

type tookAfterKey struct{ resin string }

func tookAfterOf(t *store.Tx, resinID string) (map[string][]float64, error) {
	runs, err := t.RunsOfResin(resinID)
	if err != nil {
		return nil, err
	}
	runs = runs[max(0, len(runs)-latePrints):]
	steps, err := t.StepsOfRuns(runs)
	out := map[string][]float64{}
	for _, run := range runs {
		of := map[string]float64{}
		for _, s := range steps[run] {
			if took := s.TookS(); took != nil {
				of[s.Kind] += *took
			}
		}
		for kind, s := range of {
			out[kind] = append(out[kind], s)
		}
	}
	return out, err
}
