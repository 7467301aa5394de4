package setup

import (
	"math"
	"strings"
	"testing"

	"ojime/internal/core/cost"
	"ojime/internal/core/outcome"
)

func p[V any](v V) *V { return &v }

func near(t *testing.T, what string, got *float64, want float64) {
	t.Helper()
	if got == nil || math.Abs(*got-want) > 1e-9*math.Max(1, math.Abs(want)) {
		t.Errorf("%s is %v, want %v", what, got, want)
	}
}

// A plate of its own, a plate shared with others, and one that was stopped.
func three() []Print {
	return []Print{
		{Code: "R-1", Copies: 2, Share: 1, TookS: p(6000.0), OursS: p(5000.0), SoftwareS: p(5500.0), ResinML: p(20.0), PerLitre: p(30.0), LightOnS: 300, Layers: 100, AttendedMin: 10,
			Counts: outcome.Counts{Specimens: 2, Whole: 1, Lost: 1, Failed: 1, ByMachine: 1}},
		{Code: "R-2", Copies: 1, Share: 0.25, TookS: p(8000.0), OursS: p(7000.0), ResinML: p(40.0), PerLitre: p(50.0), LightOnS: 400, Layers: 200, AttendedMin: 20,
			Counts: outcome.Counts{Specimens: 1, Lost: 1, Accidents: 1}},
	}
}

func TestTimesOfMixedPlatesAreByShare(t *testing.T) {
	times := TimesOf(append(three(), Print{Code: "R-3", Copies: 5, Share: 1, NoTime: "it was stopped"}))
	near(t, "mean time", times.MeanS, 7000)
	near(t, "time a piece", times.PerPieceS, (6000+0.25*8000)/3)
	near(t, "our estimate", times.OursS, 6000)
	near(t, "software", times.SoftwareS, 5500)
	if len(times.Took) != 2 || !times.Shared {
		t.Errorf("%+v", times)
	}
	if none := TimesOf([]Print{{Copies: 1, Share: 1}}); none.MeanS != nil || none.PerPieceS != nil || none.Shared {
		t.Errorf("%+v", none)
	}
}

func TestBiasNeedsBothTimes(t *testing.T) {
	bias, err := BiasOf(three())
	if err != nil || bias == nil || math.Abs(*bias.Factor-6000.0/5500) > 1e-9 {
		t.Errorf("%+v, %v", bias, err)
	}
	if none, err := BiasOf(three()[1:]); err != nil || none != nil {
		t.Errorf("%+v, %v", none, err)
	}
}

func TestCostIsOfThePiecesShare(t *testing.T) {
	film := []cost.Consumable{{Name: "film", Price: 15, Life: 150, Unit: "layer"}}
	got, reason, err := CostOf(three(), Prices{LabourPerH: 60, Consumables: film})
	if err != nil || reason != "" {
		t.Fatal(reason, err)
	}
	// Resin: 20 ml at 30 a litre and 10 ml at 50; film: 150 layers at 15/150; attended: 15 min at 60 an hour.
	want := 0.02*30 + 0.01*50 + 15 + 15
	if math.Abs(got.PrintCost-want) > 1e-9 || math.Abs(got.PerCopy-want/3) > 1e-9 {
		t.Errorf("%+v, want %v", got, want)
	}
	// Two of three came out of the print good: one was lost to an accident. One in three
	// printed copies is paid for in vain.
	near(t, "a good piece", got.PerGoodPiece, want/3*(1+0.5))
	for _, c := range []struct {
		change func(*Print)
		says   string
	}{
		{func(x *Print) { x.TookS, x.NoTime = nil, "it was stopped" }, "How long R-1 took is not known: it was stopped."},
		{func(x *Print) { x.ResinML, x.NoResin = nil, "weigh it" }, "weigh it"},
		{func(x *Print) { x.NoPrice = "no price" }, "no price"},
	} {
		prints := three()
		c.change(&prints[0])
		if got, reason, err := CostOf(prints, Prices{}); got != nil || err != nil || !strings.Contains(reason, c.says) {
			t.Errorf("%+v, %q, %v; want %q", got, reason, err, c.says)
		}
	}
}

func TestWordsAndMeans(t *testing.T) {
	text := func(s string) string { return s }
	if got := OneOf([]string{"a", "b", "a"}, text); got != "a / b" {
		t.Error(got)
	}
	if got := Word([]*string{p("a"), nil}, func(s *string) *string { return s }); got != nil {
		t.Error(*got)
	}
	if got := Word([]*string{p("a"), p("a")}, func(s *string) *string { return s }); *got != "a" {
		t.Error(*got)
	}
	list := []*float64{p(1.0), nil, p(3.0)}
	if MeanAll(list, func(v *float64) *float64 { return v }) != nil {
		t.Error("a mean of what is not known")
	}
	near(t, "mean of what is known", MeanKnown(list), 2)
	if list[1] != nil || MeanKnown(nil) != nil {
		t.Error("the list was changed, or a mean of nothing")
	}
	flags := []*bool{nil, p(false), p(true)}
	if v := AnyTrue(flags, func(v *bool) *bool { return v }); v == nil || !*v {
		t.Error("one is set")
	}
	if AnyTrue(flags[:2], func(v *bool) *bool { return v }) != nil {
		t.Error("none is set")
	}
}

func TestResinOfACopyIsItsShare(t *testing.T) {
	near(t, "resin of a copy", ResinEach(append(three(), Print{Copies: 4, Share: 1})), (20+0.25*40)/3)
	if ResinEach([]Print{{Copies: 1, Share: 1}}) != nil {
		t.Error("resin that nobody noted")
	}
}
