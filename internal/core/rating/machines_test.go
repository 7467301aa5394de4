package rating

import (
	"strings"
	"testing"
)

func TestScalesOfMachinesHaveTheirAnchors(t *testing.T) {
	keys := map[string]bool{}
	for _, s := range Usual {
		keys[s.Key] = true
	}
	for _, s := range OfMachines {
		if keys[s.Key] || s.Name == "" {
			t.Errorf("%q stands twice, or has no name", s.Key)
		}
		keys[s.Key] = true
		seen := map[string]bool{}
		for i, a := range s.Anchors {
			if strings.TrimSpace(a) == "" || seen[a] {
				t.Errorf("%s, step %d: %q", s.Key, i, a)
			}
			seen[a] = true
		}
		if got, known := MachineScaleOf(OfMachines, s.Key); !known || got.Name != s.Name {
			t.Errorf("%s is not found by its key", s.Key)
		}
	}
	if _, known := MachineScaleOf(OfMachines, "edges"); known {
		t.Error("edges are of a copy, not of a machine")
	}
}

func TestWhatLivingWithAMachineComesTo(t *testing.T) {
	lid, _ := MachineScaleOf(OfMachines, "lid")
	for _, c := range []struct {
		scores []int64
		raters []string
		want   string
	}{
		{[]int64{3}, []string{"Ida"}, "3 of 4: one hand, n = 1 by 1 person"},
		{[]int64{4, 1, 2}, []string{"Ida", "Bo", "Ida"}, "2 of 4: one hand, and care (1 to 4), n = 3 by 2 people"},
		{[]int64{3, 2}, []string{"Ida", "Bo"}, "2 of 4: one hand, and care (2 to 3), n = 2 by 2 people"},
	} {
		if got := lid.Live(c.scores, c.raters); got == nil || got.Says != c.want {
			t.Errorf("%v: %+v, want %q", c.scores, got, c.want)
		}
	}
	if lid.Live(nil, nil) != nil {
		t.Error("nobody's rating comes to something")
	}
}
