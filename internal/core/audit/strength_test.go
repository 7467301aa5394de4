package audit

import "testing"

// What specimens bear hangs on their cure, resin, exposure and surface, and not on who looked
// at them in which light, with what they were measured, or how the machine got along.
func TestWhatMattersToStrength(t *testing.T) {
	want := map[string]bool{"cure_s": true, "wash_s": true, "resin": true, "exposure_s": true, "surface": true, "orientation": true, "layer_um": true, "piece": true, "lot": true,
		"surface_light": false, "station": false, "instrument": false, "antialiasing": false, "software": false, "copies": false}
	for _, r := range rules {
		if matters, asked := want[r.factor]; asked {
			if r.matters(Strength) != matters {
				t.Errorf("%s: %v", r.factor, r.matters(Strength))
			}
			delete(want, r.factor)
		}
	}
	if len(want) > 0 {
		t.Errorf("%v are no factors", want)
	}
}

func TestACureThatDiffersIsWeighedForStrength(t *testing.T) {
	a := Conditions{CureS: One(120.0), Resin: One("blue"), Prints: new(int64)}
	b := Conditions{CureS: One(600.0), Resin: One("blue"), Prints: new(int64)}
	*a.Prints, *b.Prints = 4, 4
	for question, weight := range map[string]string{Strength: Minor, Time: None} {
		result, err := Compare(CompareInput{A: a, B: b, Question: question})
		if err != nil {
			t.Fatal(err)
		}
		for _, row := range result.Rows {
			if row.Factor == "cure_s" && row.Weight != weight {
				t.Errorf("for %s a cure five times as long weighs %s, want %s", question, row.Weight, weight)
			}
		}
	}
}
