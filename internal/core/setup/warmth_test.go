package setup

import (
	"math"
	"strings"
	"testing"

	"ojime/internal/core/outcome"
	"ojime/internal/core/quantity"
)

func warm(kind string, c, took float64, failed, of int64) WarmPrint {
	p := WarmPrint{Kind: kind, TempC: &c, Counts: outcome.Counts{Specimens: of, Failed: failed}}
	if took > 0 {
		p.TookS = &took
	}
	return p
}

func TestWhatTheColdDid(t *testing.T) {
	got := ByTemperature([]WarmPrint{
		warm("a", 22, 980, 0, 4), warm("a", 23, 1000*1000/980.0, 0, 4), warm("b", 22, 3000, 0, 1), warm("a", 16, 1200, 1, 4), warm("b", 17.5, 3600, 0, 1),
		{Kind: "a", TookS: quantity.Ptr(9000.0)},
	})
	if len(got) != 1 {
		t.Fatalf("%d contrasts: %+v", len(got), got)
	}
	c := got[0]
	if c.Band.Band != Cold || c.Band.Prints != 2 || c.Against.Prints != 3 || c.Kinds != 2 || math.Abs(*c.Ratio-1.2) > 1e-9 {
		t.Errorf("%+v, ratio %v", c, *c.Ratio)
	}
	if want := "At 16 to 17.5 °C (2 prints) against 22 to 23 °C (3 prints): a plate took 1.2 times as long (0.854 to 1.69); 1 of 5 copies failed against 0 of 9 copies."; c.Says != want {
		t.Errorf("%s\nwant %s", c.Says, want)
	}
}

func TestTemperaturesThatTellNothing(t *testing.T) {
	for name, prints := range map[string][]WarmPrint{
		"all usual": {warm("a", 21, 1000, 0, 1), warm("a", 24, 1000, 0, 1)}, "none known": {{Kind: "a"}, {Kind: "a"}}, "none": nil, "all cold": {warm("a", 12, 1000, 0, 1), warm("a", 14, 1100, 0, 1)},
	} {
		if got := ByTemperature(prints); got == nil || len(got) != 0 {
			t.Errorf("%s: %+v", name, got)
		}
	}
	// Without usual prints the hot are held against the cold; other plates have no ratio.
	got := ByTemperature([]WarmPrint{warm("a", 31, 1000, 0, 0), warm("b", 15, 2000, 1, 2)})
	if len(got) != 1 || got[0].Band.Band != Hot || got[0].Against.Band != Cold || got[0].Ratio != nil || !strings.Contains(got[0].Says, "no plate that holds the same has a time in both; none judged against 1 of 2 copies") {
		t.Errorf("%+v", got)
	}
	if spread := ByTemperature([]WarmPrint{warm("a", 22, 1000, 0, 1), warm("a", 22, 1010, 0, 1), warm("a", 15, 1200, 0, 1)}); spread[0].CI == nil || !strings.Contains(spread[0].Says, " (") {
		t.Errorf("no interval where times repeat: %+v", spread)
	}
}
