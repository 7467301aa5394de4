package timing

import "testing"

func TestMachinesAreCorrectedAlikeOrNotAtAll(t *testing.T) {
	settings, other := Past{ActualS: 1, SameSettings: true}, Past{ActualS: 2}
	for _, c := range []struct {
		name     string
		machines [][]Past
		from     string
		chosen   []int
	}{
		{"both by their settings", [][]Past{{settings, other}, {settings, settings}}, "with these settings", []int{1, 2}},
		{"one without prints of its settings: both by all of theirs", [][]Past{{settings, other}, {other}}, "of this machine", []int{2, 1}},
		{"one without any print, as after a change: neither", [][]Past{{settings, settings, other}, {}}, "", []int{0, 0}},
	} {
		t.Run(c.name, func(t *testing.T) {
			chosen, from := LearnAlike(c.machines)
			if from != c.from || len(chosen) != len(c.chosen) {
				t.Fatalf("from %q, %v", from, chosen)
			}
			for i, n := range c.chosen {
				if len(chosen[i]) != n {
					t.Errorf("machine %d learns from %d prints, want %d", i, len(chosen[i]), n)
				}
			}
		})
	}
}
