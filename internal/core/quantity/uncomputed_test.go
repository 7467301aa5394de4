package quantity

import (
	"errors"
	"fmt"
	"testing"
)

func TestOnlyWhatCannotBeComputedIsLeftOut(t *testing.T) {
	for _, c := range []struct {
		name string
		err  error
		why  string // empty: the error stays one
	}{
		{"nothing wrong", nil, ""},
		{"something is not known", NotComputable("The price of %s is not known.", "Fable Grey"), "The price of Fable Grey is not known."},
		{"the same, wrapped", fmt.Errorf("cost: %w", NotComputable("No scale.")), "No scale."},
		{"a value that a model refuses", fmt.Errorf("time: %w", Errorf("a.fixed_s", "is %d; it must be above 0", 0)), "A value on record can't be used here: a.fixed_s is 0; it must be above 0."},
		{"the database", errors.New("disk I/O error"), ""},
	} {
		t.Run(c.name, func(t *testing.T) {
			var gaps Gaps
			for range 2 { // what is said twice stands once
				if err := gaps.Leave("Costs", c.err); c.why != "" && err != nil || c.why == "" && !errors.Is(err, c.err) {
					t.Fatalf("left %v", err)
				}
			}
			if c.why == "" && len(gaps) != 0 || c.why != "" && (len(gaps) != 1 || gaps[0] != Uncomputed{"Costs", c.why}) {
				t.Errorf("gaps %+v, want %q", gaps, c.why)
			}
		})
	}
}
