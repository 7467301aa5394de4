package evidence

import "testing"

func toPlan(t *testing.T, record []PrintCount, copies int64, matters float64) *int64 {
	t.Helper()
	n, err := PrintsToPlan(record, copies, matters)
	if err != nil {
		t.Fatal(err)
	}
	return n
}

// What is planned from a record is what a comparison of its halves would ask for; where
// prints tell how far copies share their fate, all of them tell it better than half.
func TestPlannedPrintsAreThoseThatAComparisonWouldAskFor(t *testing.T) {
	for _, c := range []struct {
		half  []PrintCount
		exact bool
	}{{[]PrintCount{{0, 4}, {0, 4}, {0, 4}, {0, 4}}, true}, {[]PrintCount{{1, 4}, {0, 4}, {2, 4}, {0, 4}}, false}} {
		both, err := Prints(PrintsInput{A: c.half, B: c.half})
		if err != nil {
			t.Fatal(err)
		}
		got, asked := *toPlan(t, append(append([]PrintCount{}, c.half...), c.half...), 4, UsualMatters), *both.PrintsNeeded
		if c.exact && got != asked || got > asked || float64(got) < 0.8*float64(asked) {
			t.Errorf("%v: planned %d, asked for %d", c.half, got, asked)
		}
	}
}

func TestPlannedPrintsFollowCopiesAndWhatMatters(t *testing.T) {
	one, four, eight := *toPlan(t, nil, 1, 0.2), *toPlan(t, nil, 4, 0.2), *toPlan(t, nil, 8, 0.2)
	// Copies share their print's fate: eight on a plate are worth less than eight prints.
	if !(one > four && four >= eight) || float64(eight) < float64(one)*0.45 {
		t.Errorf("1 copy %d, 4 copies %d, 8 copies %d prints", one, four, eight)
	}
	if fine := *toPlan(t, nil, 4, 0.1); fine <= four {
		t.Errorf("a tenth takes %d, a fifth %d", fine, four)
	}
	never := []PrintCount{{0, 8}, {0, 8}, {0, 8}, {0, 8}}
	if none := *toPlan(t, never, 4, 0.2); none >= four {
		t.Errorf("where hardly anything fails it takes %d, else %d", none, four)
	}
	if n := toPlan(t, []PrintCount{{2, 4}, {2, 4}}, 4, 0.9); n != nil {
		t.Errorf("no rate lies 0.9 from a half: %d", *n)
	}
	for _, c := range []struct {
		copies  int64
		matters float64
	}{{0, 0.2}, {4, 0}, {4, 1}} {
		if _, err := PrintsToPlan(nil, c.copies, c.matters); err == nil {
			t.Errorf("%+v passes", c)
		}
	}
	if _, err := PrintsToPlan([]PrintCount{{3, 2}}, 4, 0.2); err == nil {
		t.Error("3 of 2 pass")
	}
}
