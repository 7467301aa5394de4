package rating

import (
	"maps"
	"slices"
	"strings"
	"testing"

	"ojime/internal/core/audit"
)

// Every step of every scale has an anchor of its own, and a scale answers questions that a
// comparison asks.
func TestEveryStepHasItsAnchor(t *testing.T) {
	keys := map[string]bool{}
	for _, s := range Usual {
		if keys[s.Key] || s.Name == "" || len(s.Questions) == 0 {
			t.Errorf("%q: %+v", s.Key, s)
		}
		keys[s.Key] = true
		seen := map[string]bool{}
		for i, a := range s.Anchors {
			if strings.TrimSpace(a) == "" || seen[a] || len(a) > 60 {
				t.Errorf("%s, step %d: %q", s.Key, i, a)
			}
			seen[a] = true
		}
		for _, q := range s.Questions {
			if !slices.Contains(audit.Questions, q) {
				t.Errorf("%s answers %q, which no comparison asks", s.Key, q)
			}
		}
	}
}

func TestAgreementCountsSameAndNear(t *testing.T) {
	got, err := Agree([]Twice{{2, 2}, {3, 2}, {2, 3}, {4, 2}, {0, 0}})
	if err != nil || got.Pairs != 5 || got.Same != 2 || got.WithinOne != 4 || *got.SameRate.Rate != 0.4 || *got.NearRate.Rate != 0.8 {
		t.Errorf("%+v %v", got, err)
	}
	if none, err := Agree(nil); err != nil || none.SameRate.Rate != nil {
		t.Errorf("%+v %v", none, err)
	}
}

// Each scale that tells of a resin is one of the usual ones; what a machine draws does not.
func TestWhichScalesTellOfAResin(t *testing.T) {
	var told []string
	for _, s := range Usual {
		if s.OfResin() {
			told = append(told, s.Key)
		}
	}
	slices.Sort(told)
	if want := slices.Sorted(slices.Values(ofResin)); !slices.Equal(told, want) {
		t.Errorf("%v of %v", told, want)
	}
	for _, key := range []string{"edges", "layer_lines", "stepping"} {
		if (Scale{Key: key}).OfResin() {
			t.Errorf("%s is drawn by the machine", key)
		}
	}
	if !(Scale{Key: "mine", Own: true}).OfResin() {
		t.Error("a scale of one's own may tell of anything")
	}
}

func TestWhatDrawsWhatIsJudged(t *testing.T) {
	drawn := map[string]string{}
	for _, s := range Usual {
		if by := s.DrawnBy(); by != "" {
			drawn[s.Key] = by
		}
	}
	if want := map[string]string{"edges": ByDot, "layer_lines": ByLayers, "stepping": ByLayers}; !maps.Equal(drawn, want) {
		t.Errorf("%v, want %v", drawn, want)
	}
}
