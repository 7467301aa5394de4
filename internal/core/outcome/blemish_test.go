package outcome

import "testing"

func TestWhatCountsAgainstAFinish(t *testing.T) {
	for _, c := range []struct {
		symptom, origin string
		want            bool
	}{
		{"surface haze", "printed", true}, {"surface haze", "unknown", true}, {"surface haze", "wash", false},
		{"visible layer line", "printed", true}, {"specks", "handling", false},
		{"support scar", "removal", true}, {"support scar", "supports", true}, {"support scar", "printed", true}, {"support scar", "handling", false},
		{"delamination", "printed", false}, {"", "printed", false}, {"broken in handling", "removal", false},
	} {
		if got := Blemish(c.symptom, c.origin); got != c.want {
			t.Errorf("%s of origin %s: %v, want %v", c.symptom, c.origin, got, c.want)
		}
	}
}
