package evidence

import "testing"

func TestBrier(t *testing.T) {
	for _, c := range []struct {
		chance   float64
		happened bool
		want     float64
	}{{0, false, 0}, {0, true, 1}, {1, true, 0}, {1, false, 1}, {0.5, true, 0.25}, {0.25, false, 0.0625}, {0.25, true, 0.5625}} {
		if got := Brier(c.chance, c.happened); got != c.want {
			t.Errorf("%v foretold, happened %v: %v, want %v", c.chance, c.happened, got, c.want)
		}
	}
}
