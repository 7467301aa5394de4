package work_test

import (
	"fmt"
	"sync"
	"testing"

	"ojime/internal/bench"
)

// Pages ask while others write: what is remembered between them is shared.
func TestPagesAndWritersSideBySide(t *testing.T) {
	d := newDesk(t)
	run := d.treated()
	var all sync.WaitGroup
	failed := make(chan error, 64)
	together := func(task func(i int) error) {
		all.Go(func() {
			for i := range 4 {
				if err := task(i); err != nil {
					failed <- err
				}
			}
		})
	}
	ctx := t.Context()
	together(func(int) error { _, err := d.w.Compare.FailureRates(ctx); return err })
	together(func(int) error { _, err := d.w.BenchView.Bench(ctx); return err })
	together(func(int) error { _, err := d.w.Printing.Live(ctx, run.Run.ID); return err })
	together(func(i int) error {
		_, err := d.w.Kit.SaveInstrument(ctx, bench.Instrument{Name: fmt.Sprintf("Caliper %d", i), ResolutionMM: 0.01, ReferenceUMM: 0.01})
		return err
	})
	together(func(int) error {
		_, err := d.w.Planning.EstimateRun(ctx, d.profile.ID, d.piece.Piece.ID, 2, 100)
		return err
	})
	all.Wait()
	close(failed)
	for err := range failed {
		t.Error(err)
	}
}
