package timing

import "testing"

func TestALoadFollowsFromOneAndTwo(t *testing.T) {
	if got := LoadOf(100, 130, 4); got != (Load{FixedS: 70, PerCopyS: 30, Capacity: 4}) || got.time(1) != 100 || got.time(2) != 130 {
		t.Errorf("%+v", got)
	}
	// On a masked machine a second copy costs nothing; noise in a factor costs no less.
	if got := LoadOf(100, 99, 4); got != (Load{FixedS: 100, Capacity: 4}) {
		t.Errorf("%+v", got)
	}
}

func TestEqualFillIsTheMostThatAllHold(t *testing.T) {
	for want, capacities := range map[int64][]int64{0: nil, 3: {9, 3, 4}, 5: {5}} {
		var loads []Load
		for _, c := range capacities {
			loads = append(loads, Load{Capacity: c})
		}
		if got := EqualCopies(loads); got != want {
			t.Errorf("%v: %d", capacities, got)
		}
	}
}

// A learned time may be all drawing, as a laser's is: nothing is fixed, and it is no error.
func TestATimeWithoutAFixedPartIsATime(t *testing.T) {
	drawn := LoadOf(100, 230, 4)
	if drawn != (Load{FixedS: 0, PerCopyS: 100, Capacity: 4}) {
		t.Errorf("%+v", drawn)
	}
	got, err := Fill(FillInput{A: drawn, B: Load{FixedS: 300, Capacity: 4}, Copies: 2})
	if err != nil || got.AS != 200 || got.BS != 300 || got.Crossover == nil || *got.Crossover != 4 {
		t.Errorf("%+v, %v", got, err)
	}
	if _, err := Fill(FillInput{A: Load{Capacity: 4}, B: drawn, Copies: 1}); err == nil {
		t.Error("a print that takes no time at all is taken")
	}
}
