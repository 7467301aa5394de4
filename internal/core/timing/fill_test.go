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
