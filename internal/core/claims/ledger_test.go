package claims

import (
	"math/rand/v2"
	"strings"
	"testing"

	"ojime/internal/core/quantity"
)

func TestAClaimedNumberIsHeldByItsBound(t *testing.T) {
	for _, c := range []struct {
		bound     string
		claimed   float64
		low, high float64
		want      string
	}{
		{Least, 70, 71, 80, Met}, {Least, 70, 60, 69.9, NotMet}, {Least, 70, 65, 75, CannotTell}, {Least, 70, 70, 80, Met},
		{Most, 70, 60, 70, Met}, {Most, 70, 70.1, 80, NotMet}, {Most, 70, 65, 75, CannotTell},
		{Near, 100, 95, 105, Met}, {Near, 100, 94.9, 105, CannotTell}, {Near, 100, 95, 105.1, CannotTell}, {Near, 100, 80, 94.9, NotMet}, {Near, 100, 105.1, 120, NotMet},
		{Near, -100, -104, -96, Met}, {Near, -100, -94, -90, NotMet},
	} {
		if got := Held(c.bound, c.claimed, &quantity.Interval{c.low, c.high}); got != c.want {
			t.Errorf("%s %v against %v to %v: %s, not %s", c.bound, c.claimed, c.low, c.high, got, c.want)
		}
	}
	for _, bound := range []string{Least, Most, Near} {
		if got := Held(bound, 70, nil); got != CannotTell {
			t.Errorf("%s without an interval: %s", bound, got)
		}
	}
}

func TestAClaimOverSeveral(t *testing.T) {
	for want, states := range map[string][]string{
		Untested: {}, Met: {Met, Met}, NotMet: {NotMet, CannotTell}, Partly: {CannotTell, Met, NotMet}, CannotTell: {Met, CannotTell},
	} {
		if got := Over(states); got != want {
			t.Errorf("%v: %s, not %s", states, got, want)
		}
	}
}

func TestLivesAreMadeComparable(t *testing.T) {
	got, err := Life(LifeInput{Life: 300, Unit: "h", Used: 36, HPerWeek: 9, PerHour: 1})
	if err != nil || got.State != Untested || got.Says != "300 h are 33 weeks at 9 h a week; 36 h (4 weeks) are used so far: unproven" {
		t.Errorf("%+v %v", got, err)
	}
	got, err = Life(LifeInput{Life: 60000, Unit: "layers", Used: 60000, HPerWeek: 30, PerHour: 400})
	if err != nil || got.State != Met || got.Says != "60 000 layers are 5 weeks at 30 h a week; it has done 60 000 layers (5 weeks)" {
		t.Errorf("%+v %v", got, err)
	}
	got, err = Life(LifeInput{Life: 2000, Unit: "h", Used: 1999, HPerWeek: 30})
	if err != nil || got.Weeks != nil || got.State != Untested || got.Says != "2 000 h; 1 999 h are used so far: unproven" {
		t.Errorf("%+v %v", got, err)
	}
	for field, in := range map[string]LifeInput{"life": {HPerWeek: 1}, "h_per_week": {Life: 1}, "used": {Life: 1, HPerWeek: 1, Used: -1}, "per_hour": {Life: 1, HPerWeek: 1, PerHour: -1}} {
		if _, err := Life(in); err == nil || !strings.Contains(err.Error(), field) {
			t.Errorf("%s: %v", field, err)
		}
	}
}

// 55 % more is the pixel count; the plate is a fifth larger, so along a line it is 14 %.
func TestWhatARatioMeans(t *testing.T) {
	a, b := Plate{WidthMM: 240, DepthMM: 120, PxX: 9302, PxY: 5000}, Plate{WidthMM: 200, DepthMM: 120, PxX: 6000, PxY: 5000}
	r, err := Quantity(QuantityInput{A: a, B: b, ClaimedRatio: quantity.Ptr(1.55)})
	if err != nil {
		t.Fatal(err)
	}
	for of, want := range map[string]string{"": Partly, "pixel_count": Met, "linear_resolution": NotMet, "volume": Untestable} {
		state, says := RatioIs(of, 1.55, r)
		if state != want || !strings.HasPrefix(says, "1.55 times is the pixel count; by what is on record: the pixel count 1.55 times, pixels along a millimetre 1.14 times") || !strings.Contains(says, "the width of the plate 1.2 times") || strings.Contains(says, "volume") {
			t.Errorf("%q: %s, %s", of, state, says)
		}
	}
	r, err = Quantity(QuantityInput{A: a, B: b, ClaimedRatio: quantity.Ptr(9.0)})
	if state, says := RatioIs("", 9, r); err != nil || state != NotMet || !strings.HasPrefix(says, "9 times is no ratio of the two") {
		t.Errorf("%s, %s, %v", state, says, err)
	}
}

// However a ratio is claimed, it is met of the quantity that has it.
func TestEveryQuantityHasItsRatio(t *testing.T) {
	chance := rand.New(rand.NewPCG(3, 4))
	for range 200 {
		plate := func() Plate {
			return Plate{WidthMM: 100 + 200*chance.Float64(), DepthMM: 60 + 100*chance.Float64(), PxX: 2000 + chance.Int64N(12000), PxY: 1000 + chance.Int64N(8000), HeightMM: quantity.Ptr(100 + 200*chance.Float64())}
		}
		in := QuantityInput{A: plate(), B: plate()}
		r, err := Quantity(in)
		if err != nil {
			t.Fatal(err)
		}
		for _, q := range quantities {
			in.ClaimedRatio = q.of(r.Ratios)
			r, err := Quantity(in)
			if err != nil {
				t.Fatal(err)
			}
			if state, says := RatioIs(q.key, *in.ClaimedRatio, r); state != Met || !strings.Contains(says, q.words) {
				t.Fatalf("%s: %s, %s", q.key, state, says)
			}
		}
	}
	if len(Quantities()) != 6 {
		t.Error(Quantities())
	}
}
