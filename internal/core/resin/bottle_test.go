package resin

import (
	"math"
	"strings"
	"testing"

	"ojime/internal/core/quantity"
)

func TestWhatABottleHolds(t *testing.T) {
	p := quantity.Ptr[float64]
	weighed := BottleEvent{Kind: "weighed", AtMS: 50, GrossG: p(340)}
	for _, c := range []struct {
		name   string
		bottle Bottle
		used   BottleUse
		left   float64 // below 0: not known
		share  float64
		from   string
		reason string
	}{
		{"a full one", Bottle{SizeML: p(500)}, BottleUse{}, 500, 1, "its size", ""},
		{"used by two prints", Bottle{SizeML: p(500), DensityGML: p(1.1)}, BottleUse{2, 2, 110}, 400, 0.8, "its size", ""},
		{"used by more than it held", Bottle{SizeML: p(50), DensityGML: p(1)}, BottleUse{1, 1, 80}, 0, 0, "its size", ""},
		{"weighed", Bottle{SizeML: p(500), TareG: p(120), DensityGML: p(1.1), Events: []BottleEvent{weighed}}, BottleUse{}, 200, 0.4, "the last weighing", ""},
		{"weighed, then used", Bottle{SizeML: p(500), TareG: p(120), DensityGML: p(1.1), Events: []BottleEvent{weighed}}, BottleUse{1, 1, 55}, 150, 0.3, "the last weighing", ""},
		{"poured into since", Bottle{SizeML: p(500), TareG: p(120), DensityGML: p(1.1), Events: []BottleEvent{{Kind: "poured_back", ML: p(99)}, weighed, {Kind: "mixed", ML: p(50)}}}, BottleUse{}, 250, 0.5, "with what was poured in", ""},
		{"without a size", Bottle{TareG: p(120), DensityGML: p(1.1), Events: []BottleEvent{weighed}}, BottleUse{}, 200, -1, "the last weighing", ""},
		{"emptied", Bottle{SizeML: p(500), Events: []BottleEvent{weighed, {Kind: "emptied", AtMS: 60}}}, BottleUse{1, 0, 0}, 0, 0, "noted as emptied", ""},
		{"emptied and filled again", Bottle{SizeML: p(500), Events: []BottleEvent{{Kind: "emptied", AtMS: 60}, {Kind: "mixed", ML: p(100)}}}, BottleUse{}, 100, 0.2, "poured in", ""},
		{"of no known size", Bottle{}, BottleUse{}, -1, -1, "", "What a bottle holds is not on record."},
		{"weighed without its tare", Bottle{SizeML: p(500), DensityGML: p(1.1), Events: []BottleEvent{weighed}}, BottleUse{}, -1, -1, "", "the empty bottle weighs"},
		{"weighed without a density", Bottle{SizeML: p(500), TareG: p(120), Events: []BottleEvent{weighed}}, BottleUse{}, -1, -1, "", "density"},
		{"a print noted nothing", Bottle{SizeML: p(500), DensityGML: p(1.1)}, BottleUse{3, 2, 100}, -1, -1, "", "1 of 3 prints did not note"},
		{"used, without a density", Bottle{SizeML: p(500)}, BottleUse{1, 1, 10}, -1, -1, "", "density"},
	} {
		got := c.bottle.Content(c.used)
		if c.left < 0 != (got.LeftML == nil) || got.LeftML != nil && math.Abs(*got.LeftML-c.left) > 1e-9 {
			t.Errorf("%s: left %v, want %v", c.name, got.LeftML, c.left)
		}
		if c.share < 0 != (got.Share == nil) || got.Share != nil && math.Abs(*got.Share-c.share) > 1e-9 {
			t.Errorf("%s: share %v, want %v", c.name, got.Share, c.share)
		}
		if !strings.Contains(got.From, c.from) || !strings.Contains(got.Reason, c.reason) || (c.reason == "") != (got.Reason == "") {
			t.Errorf("%s: from %q, because %q", c.name, got.From, got.Reason)
		}
	}
}

func TestFromWhenPrintsCountAgainstABottle(t *testing.T) {
	b := Bottle{Events: []BottleEvent{{Kind: "opened", AtMS: 10}, {Kind: "weighed", AtMS: 20}, {Kind: "mixed", AtMS: 30}}}
	if got := b.CountedFrom(); got != 20 {
		t.Errorf("from %d, want the weighing", got)
	}
	b.Events = append(b.Events, BottleEvent{Kind: "emptied", AtMS: 40})
	if got := b.CountedFrom(); got != 40 {
		t.Errorf("from %d, want when it was emptied", got)
	}
	if got := (Bottle{}).CountedFrom(); got != 0 {
		t.Errorf("of nothing: %d", got)
	}
}
