package panels

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/say"
	"ojime/internal/store"
	"ojime/internal/work/kit"
)

// tellsOf lists what may tell arms apart beside what is asked about, as far as the record knows, and what it
// cannot know.
func tellsOf(t *store.Tx, p bench.Panel) (bench.Notes, error) {
	items, err := itemsOf(t, p)
	if err != nil {
		return nil, err
	}
	out := bench.Notes{}
	lookup := kit.NewLookup(t)
	for _, look := range visible {
		values := make([][]string, len(p.Arms))
		for _, i := range items {
			v, err := look.of(lookup, i)
			if err != nil {
				return nil, err
			}
			if v != "" && !slices.Contains(values[i.arm], v) {
				values[i.arm] = append(values[i.arm], v)
			}
		}
		if text := apart(p, values); text != "" {
			out = append(out, fmt.Sprintf("%s: %s. %s", look.name, text, look.why))
		}
	}
	for _, i := range items {
		if i.stage != p.Stage {
			out = append(out, fmt.Sprintf("%s is %s, and the panel is of what is %s.", i.code, i.stage, p.Stage))
		}
		if words := against(i.specimen); words != "" {
			out = append(out, fmt.Sprintf("%s has %s: whoever sees that knows it again.", i.code, words))
		}
	}
	out = append(out, fewOf(p, items)...)
	return append(out, unknowable(p)), nil
}

// visible are conditions that can be seen on a copy or picture without being what is asked about.
var visible = []struct {
	name, why string
	of        func(kit.Lookup, item) (string, error)
}{
	{"Layer height", "The lines themselves may tell.", func(l kit.Lookup, i item) (string, error) {
		if i.run.ID == "" {
			return "", nil
		}
		profile, err := l.Profile(i.run.ProfileID)
		return say.InUnit(say.Figure(profile.LayerUM), "µm"), err
	}},
	{"Resin", "Its colour, gloss or smell may tell.", func(l kit.Lookup, i item) (string, error) {
		if i.run.ID == "" {
			return "", nil
		}
		resin, err := l.Resin(i.run.ResinID)
		if resin.Colour == "" {
			return resin.Name, err
		}
		return resin.Name + ", " + resin.Colour, err
	}},
	{"Scale", "The size tells.", func(_ kit.Lookup, i item) (string, error) {
		return say.InUnit(say.Figure(i.specimen.ScalePct), "%"), nil
	}},
	{"Orientation", "Where layers and marks run may tell.", func(_ kit.Lookup, i item) (string, error) { return quantity.Or(i.run.Orientation, ""), nil }},
	{"Supports", "Where they left marks may tell.", func(_ kit.Lookup, i item) (string, error) { return quantity.Or(i.run.Supports, ""), nil }},
	{"Light of the photographs", "One light flatters.", func(_ kit.Lookup, i item) (string, error) {
		if i.photograph == nil {
			return "", nil
		}
		return i.photograph.Light, nil
	}},
	{"Station of the photographs", "From nearer more is seen.", func(_ kit.Lookup, i item) (string, error) {
		if i.photograph == nil {
			return "", nil
		}
		return i.photograph.View().StationWords(), nil
	}},
	{"Pixels of the photographs", "A sharper picture looks like a sharper print.", func(_ kit.Lookup, i item) (string, error) {
		if i.photograph == nil {
			return "", nil
		}
		return fmt.Sprintf("%d × %d", i.photograph.WidthPX, i.photograph.HeightPX), nil
	}},
}

// apart says the values of arms where they are not all the same; empty where they are, or nothing is known.
func apart(p bench.Panel, values [][]string) string {
	var words []string
	same := true
	for a, v := range values {
		slices.SortFunc(v, cmp.Compare)
		same = same && slices.Equal(v, values[0])
		if len(v) == 0 {
			v = []string{"not known"}
		}
		words = append(words, p.Arms[a].Label+" "+strings.Join(v, " and "))
	}
	if same {
		return ""
	}
	return strings.Join(words, "; ")
}

// against is what is on record against a copy, in words; empty for none.
func against(s bench.Specimen) string {
	var words []string
	for _, d := range s.Defects {
		if d.TakenBackMS == nil {
			words = append(words, say.Words(d.Symptom))
		}
	}
	if len(words) == 0 && s.Outcome == "micro_defect" {
		words = append(words, "a small defect")
	}
	if s.SwappedWith != "" {
		words = append(words, "a label that may be swapped with "+s.SwappedWith)
	}
	return say.List(words)
}

// fewOf says where an arm stands on one copy or one print: what is judged then is that one.
func fewOf(p bench.Panel, items []item) (out []string) {
	for a, arm := range p.Arms {
		copies, prints := map[string]bool{}, map[string]bool{}
		for _, i := range items {
			if i.arm == a && i.specimen.ID != "" {
				copies[i.specimen.ID], prints[i.run.ID] = true, true
			}
		}
		switch {
		case len(copies) == 1:
			out = append(out, fmt.Sprintf("One copy stands for %s: what is judged is that copy.", arm.Label))
		case len(prints) == 1:
			out = append(out, fmt.Sprintf("All copies of %s are of one print: what is judged is that print.", arm.Label))
		}
	}
	return out
}

// unknowable is what no record holds.
func unknowable(p bench.Panel) string {
	if p.Shows == bench.ShowsPhotographs {
		return "Not on record: a label, hand or background in a picture, and who remembers taking it. Look at each, and let nobody vote who took them."
	}
	return "Not on record: a raft left on, a scar, a bent pin, tackiness or smell. Look at each copy before you bag it."
}
