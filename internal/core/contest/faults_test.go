package contest

import "testing"

func TestFaultsAreCountedOverPrints(t *testing.T) {
	seen := []FaultSeen{
		{0, 0, "dots"}, {0, 1, "dots"}, {1, 0, "dots"}, {2, 3, "dots"}, // on every side
		{1, 0, "pull line"}, {1, 0, "pull line"}, {1, 2, "pull line"}, // two prints of one side
		{2, 1, "soft"}, {2, 1, "soft"}, // one print, two copies
		{0, 2, "split"}, {1, 1, "split"}, // one print each
		{0, 0, "bloat"}, {0, 1, "bloat"}, {2, 0, "bloat"},
	}
	got := Faults(BySide, seen, []int64{4, 3, 4}, []string{"A", "B", "C"})
	want := []struct {
		symptom, says    string
		side             int
		specimens, print int64
	}{
		{"dots", "on every side: look at the file or its supports first", 0, 2, 2},
		{"bloat", "on A and C; it repeats on A", 0, 2, 2},
		{"pull line", "only on B, on 2 prints: it repeats", 1, 3, 2},
		{"soft", "on one print of C alone: a fluke until it repeats", 2, 2, 1},
		{"split", "on one print each of A and B: it is no one side's", 1, 1, 1},
	}
	if len(got) != len(want) {
		t.Fatalf("%+v", got)
	}
	for i, w := range want {
		s := got[i].Sides[w.side]
		if got[i].Symptom != w.symptom || got[i].Says != w.says || s.Specimens != w.specimens || s.Prints != w.print || s.Of < 3 {
			t.Errorf("%d: %+v, want %+v", i, got[i], w)
		}
	}
	if none := Faults(BySide, nil, []int64{1, 1}, []string{"A", "B"}); none == nil || len(none) != 0 {
		t.Errorf("%v", none)
	}
	// A side that nobody judged does not make a fault less than everywhere.
	if all := Faults(BySide, seen[:3], []int64{4, 3, 0}, []string{"A", "B", "C"}); all[0].Says != "on every side: look at the file or its supports first" {
		t.Errorf("%q", all[0].Says)
	}
}

func TestWhatAllShareIsLookedForWhereTheyShareIt(t *testing.T) {
	seen := []FaultSeen{{0, 0, "dots"}, {1, 1, "dots"}}
	for by, want := range map[string]string{
		ByMachine:  "on every machine: look at the file or its supports first",
		ByResin:    "with every resin: look at the file, its supports or the machine first",
		ByPiece:    "on every piece: look at the machine, the resin or the settings first",
		BySoftware: "with all software: look at the machine, the resin or the settings first",
	} {
		if got := Faults(by, seen, []int64{2, 2}, []string{"one", "two"})[0].Says; got != want {
			t.Errorf("%s: %q", by, got)
		}
		if got := Faults(by, seen, []int64{2, 2, 2}, []string{"one", "two", "three"})[0].Says; got != "on one print each of one and two: it is no one "+by+"'s" {
			t.Errorf("%s: %q", by, got)
		}
	}
}
