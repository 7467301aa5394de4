package viewing

import "testing"

func TestASurfaceIsInTheFurthestStageThatItCameTo(t *testing.T) {
	reached := []Reached{{"washed", 10}, {"cured", 20}, {"primed", 50}, {"cured", 60}}
	for at, want := range map[int64]string{5: "raw", 10: "washed", 49: "cured", 50: "primed", 90: "primed"} {
		if got := StageAt(reached, at); got != want {
			t.Errorf("at %d: %s, want %s", at, got, want)
		}
	}
	if StageAt(nil, 7) != "raw" {
		t.Error("before anything it is raw")
	}
}

func TestACoatHidesWhatWasBefore(t *testing.T) {
	for _, c := range []struct {
		now, said string
		gone      bool
	}{{"primed", "raw", true}, {"primed", "cured", true}, {"painted", "primed", true}, {"varnished", "washed", true},
		{"cured", "raw", false}, {"washed", "raw", false}, {"primed", "primed", false}, {"primed", "painted", false}, {"cured", "primed", false}} {
		if got := Gone(c.now, c.said); got != c.gone {
			t.Errorf("%s seen as %s: %v", c.now, c.said, got)
		}
	}
}
