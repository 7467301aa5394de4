package evidence

import "testing"

func TestARateOfTwoTrialsMeansNextToNothing(t *testing.T) {
	for trials, few := range map[int64]bool{0: true, 2: true, 3: false, 40: false} {
		if Few(trials) != few {
			t.Errorf("%d trials: few is %v", trials, Few(trials))
		}
	}
}
