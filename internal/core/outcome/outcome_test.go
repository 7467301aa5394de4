package outcome

import "testing"

func TestWhatACopyCountsAs(t *testing.T) {
	torn := Defect{Origin: "printed", Fault: "machine", Severity: "plain"}
	line := Defect{Origin: "printed", Fault: "resin", Severity: "slight"}
	nobody := Defect{Origin: "unknown", Fault: "unknown"}
	dropped := Defect{Origin: "handling", Fault: "operator", Severity: "grave"}
	for _, c := range []struct {
		name    string
		outcome string
		defects []Defect
		want    Weight
	}{
		{"not judged", Pending, []Defect{torn}, Weight{}},
		{"whole, whatever is noted", Whole, []Defect{torn}, Weight{}},
		{"lost in printing", Lost, []Defect{torn}, Weight{Failed: true, FailedBy: "machine"}},
		{"lost, nobody knows to what", Lost, []Defect{nobody}, Weight{Failed: true, FailedBy: "unknown"}},
		{"lost to a fall", Lost, []Defect{dropped}, Weight{Accident: true}},
		{"lost to a fall, though it had a line", Lost, []Defect{line, dropped}, Weight{MicroPrinted: true, Accident: true}},
		{"lost in printing, and scarred after", Lost, []Defect{{Origin: "supports", Severity: "slight"}, torn}, Weight{Failed: true, FailedBy: "machine", Accident: true}},
		{"the gravest decides whose it is", Lost, []Defect{line, torn}, Weight{Failed: true, FailedBy: "machine"}},
		{"of two alike the printed one", Lost, []Defect{{Origin: "wash", Severity: "plain"}, torn}, Weight{Failed: true, FailedBy: "machine", Accident: true}},
		{"of two printed alike the first", Lost, []Defect{{Origin: "printed", Fault: "resin", Severity: "plain"}, torn}, Weight{Failed: true, FailedBy: "resin"}},
		{"a mark from printing", MicroDefect, []Defect{line}, Weight{MicroPrinted: true}},
		{"a mark from the wash", MicroDefect, []Defect{{Origin: "wash"}}, Weight{Accident: true}},
		{"marks from both", MicroDefect, []Defect{line, {Origin: "removal"}}, Weight{MicroPrinted: true, Accident: true}},
		{"lost without a word", Lost, nil, Weight{}},
	} {
		if got := Weigh(c.outcome, c.defects); got != c.want {
			t.Errorf("%s: %+v, want %+v", c.name, got, c.want)
		}
	}
}

func TestOnlyLostAndSwappedCopiesAreSetAside(t *testing.T) {
	for _, c := range []struct {
		outcome string
		swapped bool
		want    bool
	}{{Whole, false, false}, {MicroDefect, false, false}, {Pending, false, false}, {Lost, false, true}, {Whole, true, true}, {Pending, true, true}} {
		if got := SetAside(c.outcome, c.swapped); got != c.want {
			t.Errorf("%s, swapped %v: %v", c.outcome, c.swapped, got)
		}
	}
}

func TestCountsAddUp(t *testing.T) {
	var c, sum Counts
	c.Add(Whole, Weight{})
	c.Add(Lost, Weight{Failed: true, FailedBy: "machine"})
	c.Add(Lost, Weight{Failed: true, FailedBy: "resin"})
	c.Add(Lost, Weight{Accident: true})
	c.Add(MicroDefect, Weight{MicroPrinted: true, Accident: true})
	c.Add(Pending, Weight{})
	want := Counts{Specimens: 6, Pending: 1, Whole: 1, Micro: 1, Lost: 3, MicroPrinted: 1, Failed: 2, ByMachine: 1, ByResin: 1, Accidents: 2}
	if c != want {
		t.Fatalf("%+v, want %+v", c, want)
	}
	if c.Judged() != 5 || c.Good() != 2 { // the whole one, and the one that was lost to an accident
		t.Errorf("judged %d, good %d", c.Judged(), c.Good())
	}
	sum.Sum(c)
	sum.Sum(c)
	if sum.Specimens != 12 || sum.ByResin != 2 || sum.Accidents != 4 || sum.Good() != 4 || sum.Micro != 2 || sum.Whole != 2 || sum.ByMachine != 2 {
		t.Errorf("%+v", sum)
	}
}

func TestShapes(t *testing.T) {
	for _, c := range []struct {
		counts Counts
		want   string
	}{
		{Counts{}, "open"},
		{Counts{Specimens: 2, Pending: 1, Lost: 1}, "open"},
		{Counts{Specimens: 2, Lost: 2}, "ring"},
		{Counts{Specimens: 2, Lost: 1, Micro: 1}, "split"},
		{Counts{Specimens: 2, Micro: 1, Whole: 1}, "nicked"},
		{Counts{Specimens: 2, Whole: 2}, "whole"},
	} {
		if got := c.counts.Shape(); got != c.want {
			t.Errorf("%+v is %s, want %s", c.counts, got, c.want)
		}
	}
}
