package claims

import (
	"testing"

	"ojime/internal/core/quantity"
)

func TestAClaimIsMetOnlyWhereAllOfTheIntervalIs(t *testing.T) {
	for _, c := range []struct {
		claimed float64
		ci      *quantity.Interval
		want    string
	}{
		{0.7, &quantity.Interval{0.6, 0.7}, Met}, {0.7, &quantity.Interval{0.6, 0.701}, CannotTell}, {0.7, &quantity.Interval{0.7, 0.8}, CannotTell},
		{0.7, &quantity.Interval{0.71, 0.8}, NotMet}, {0.7, nil, CannotTell},
	} {
		if got := AtMost(c.claimed, c.ci); got != c.want {
			t.Errorf("%v against %v: %s, want %s", c.claimed, c.ci, got, c.want)
		}
	}
}

func TestAClaimOfAtLeastTurnsRound(t *testing.T) {
	for _, c := range []struct {
		claimed float64
		ci      *quantity.Interval
		want    string
	}{
		{60, &quantity.Interval{60, 70}, Met}, {60, &quantity.Interval{59.9, 70}, CannotTell}, {60, &quantity.Interval{50, 60}, CannotTell}, {60, &quantity.Interval{50, 59.9}, NotMet}, {60, nil, CannotTell},
	} {
		if got := AtLeast(c.claimed, c.ci); got != c.want || Words[got] == "" {
			t.Errorf("%v against %v: %s, want %s", c.claimed, c.ci, got, c.want)
		}
	}
}
