package publish

import (
	"errors"
	"slices"
	"testing"

	"ojime/internal/core/audit"
	"ojime/internal/core/quantity"
	"ojime/internal/work/compare"
	"ojime/internal/work/reviews"
)

// Each part of a write-up that can't be computed is left with its reason while the others are gathered; what the database or
// the program gets wrong in it ends the write-up.
func TestAPartThatCannotBeComputedBlocksNoOther(t *testing.T) {
	g := &gathering{sheet: &sheet{}}
	parts := slices.Concat(g.machines(), g.printed(), g.prints(), g.comparisons(), g.judgements(), g.evidence())
	if len(parts) < 15 {
		t.Fatalf("%d parts", len(parts))
	}
	for at, broken := range parts {
		t.Run(broken.part, func(t *testing.T) {
			run := func(fault error) (done int, gaps quantity.Gaps, err error) {
				g := &gathering{sheet: &sheet{}}
				steps := make([]step, len(parts))
				for i, p := range parts {
					steps[i] = step{p.part, func() error {
						if i == at {
							return fault
						}
						done++
						return nil
					}}
				}
				err = g.inOrder(steps)
				return done, g.Gaps, err
			}
			done, gaps, err := run(quantity.NotComputable("The density of Fable Grey is not known."))
			if err != nil || done != len(parts)-1 || len(gaps) != 1 || gaps[0] != (quantity.Uncomputed{Part: broken.part, Why: "The density of Fable Grey is not known."}) {
				t.Errorf("%d of %d parts, gaps %+v, %v", done, len(parts), gaps, err)
			}
			disk := errors.New("disk I/O error")
			if _, gaps, err := run(disk); !errors.Is(err, disk) || len(gaps) != 0 {
				t.Errorf("a fault of the disk gives %v and gaps %+v", err, gaps)
			}
		})
	}
}

// What prints tell apart is not published beside a fairness check that finds them not comparable.
func TestEffectsAreNotToldOfPrintsThatAreNotComparable(t *testing.T) {
	tells := []string{"These prints tell the effect of resin."}
	contest := func(grade, factor string) []reviews.Contest {
		row := audit.Row{Factor: factor, State: audit.Differs, Weight: audit.Major, Sentence: "Layer height: 30 against 50 µm."}
		return []reviews.Contest{{Results: []compare.Comparison{{Audits: []compare.Audit{{Result: audit.CompareResult{Grade: grade, Rows: []audit.Row{row}}}}}}}}
	}
	for _, c := range [][]reviews.Contest{contest(audit.WithCaveats, "layer_um"), contest(audit.NotComparable, "prints"), nil} {
		if got := fairTells(tells, c); !slices.Equal(got, tells) {
			t.Errorf("%q", got)
		}
	}
	got := fairTells(tells, contest(audit.NotComparable, "layer_um"))
	if len(got) != 1 || got[0] != "Which factor a difference comes from is not said: the fairness check finds prints not comparable. Layer height: 30 against 50 µm." {
		t.Errorf("%q", got)
	}
}
