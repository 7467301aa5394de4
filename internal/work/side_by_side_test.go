package work_test

import (
	"crypto/rand"
	"encoding/json"
	"errors"
	"fmt"
	"strings"
	"sync"
	"testing"
	"time"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/work"
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
	together(func(int) error { _, err := d.w.Tally.FailureRates(ctx); return err })
	together(func(int) error { _, err := d.w.BenchView.Bench(ctx); return err })
	together(func(int) error { _, err := d.w.Printing.Live(ctx, run.Run.ID); return err })
	together(func(i int) error {
		_, err := d.w.Instruments.SaveInstrument(ctx, bench.Instrument{Name: fmt.Sprintf("Caliper %d", i), ResolutionMM: 0.01, ReferenceUMM: 0.01})
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

// What a review shows is worked out on several threads, from prints that they share, while others read the same prints and write
// readings of them; in the end it says what it says to one who asks alone.
func TestAReviewIsShownSideBySide(t *testing.T) {
	d, review := twoPieces(t)
	ctx := t.Context()
	setups := must(d.w.Reviews.SetUps(ctx, review.ID))(t)
	run := must(d.w.Printing.RunSheet(ctx, setups[0].RunIDs[0]))(t)
	shown := map[string]func() ([]byte, error){
		"text":     func() ([]byte, error) { return d.w.Publish.WriteUp(ctx, review.ID) },
		"page":     func() ([]byte, error) { return d.w.Publish.Page(ctx, review.ID) },
		"readings": func() ([]byte, error) { return d.w.Dataset.Table(ctx, review.ID, "readings") },
		"findings": func() ([]byte, error) { return shownAs(d.w.Findings.Sheet(ctx, review.ID)) },
		"claims":   func() ([]byte, error) { return shownAs(d.w.Ledger.Sheet(ctx, review.ID)) },
		"readers":  func() ([]byte, error) { return shownAs(d.w.Readers.Sheet(ctx, review.ID)) },
		"matrix":   func() ([]byte, error) { return shownAs(d.w.Experiment.Matrix(ctx, review.ID)) },
		"print":    func() ([]byte, error) { return shownAs(d.w.Printing.RunSheet(ctx, run.Run.ID)) },
	}
	var all sync.WaitGroup
	errs := make(chan error, 64)
	for _, show := range shown {
		all.Go(func() {
			for range 3 {
				_, err := show()
				errs <- err
			}
		})
	}
	all.Go(func() {
		for i := range 4 {
			_, err := d.w.Inspect.RecordReadings(ctx, run.Run.ID, []bench.Reading{{SpecimenID: run.Specimens[0].ID, FeatureID: d.piece.Features[0].ID, InstrumentID: &d.tool.ID, ValueMM: quantity.Ptr(30.1 + float64(i)/100)}}, true)
			errs <- err
		}
	})
	all.Wait()
	close(errs)
	for err := range errs {
		if err != nil {
			t.Error(err)
		}
	}
	if text := string(must(shown["readings"]())(t)); strings.Count(text, "30.1") != 4 {
		t.Errorf("four readings were taken:\n%s", text)
	}
	alone := work.New(d.w.Store, func() time.Time { return d.clock }, rand.Reader) // it remembers nothing
	if got, want := string(must(shown["text"]())(t)), string(must(alone.Publish.WriteUp(ctx, review.ID))(t)); got != want {
		t.Errorf("it says\n%s\nand alone\n%s", got, want)
	}
}

// shownAs is what a page is given, as bytes.
func shownAs[E any](page E, err error) ([]byte, error) {
	if err != nil {
		return nil, err
	}
	return json.Marshal(page)
}

// Twenty who save different things at the same time each find theirs kept, once, with
// what belongs to it.
func TestTwentySaveAtOnce(t *testing.T) {
	d := newDesk(t)
	ctx := t.Context()
	first := d.run(nil).Run
	another := first
	another.ID, another.Code, another.Version = "", "", 0
	var all sync.WaitGroup
	errs := make([]error, 20)
	for i := range errs {
		all.Go(func() {
			switch i % 4 {
			case 0:
				_, errs[i] = d.w.Printing.RecordRun(ctx, d.recording(another, 1+int64(i)))
			case 1:
				_, errs[i] = d.w.Kit.AddEvent(ctx, bench.MachineEvent{MachineID: d.machine.ID, AtMS: first.StartedMS, Kinds: []string{"film"}, Note: fmt.Sprint(i)})
			case 2:
				_, errs[i] = d.w.Instruments.SaveInstrument(ctx, bench.Instrument{Name: fmt.Sprint(i), ResolutionMM: 0.01, ReferenceUMM: 0.01})
			case 3:
				_, errs[i] = d.w.Upkeep.AddWaste(ctx, bench.Waste{Kind: "scrap", Amount: float64(i)})
			}
		})
	}
	all.Wait()
	if err := errors.Join(errs...); err != nil {
		t.Fatal(err)
	}
	r := recordOf(t, exported(t, d.w))
	codes, copies := map[string]bool{}, map[int64]int{}
	for _, run := range r.Runs {
		codes[run.Code] = true
		copies[run.Copies]++
	}
	if len(r.Runs) != 6 || len(codes) != 6 || len(r.Instruments) != 6 || len(r.Waste) != 5 || len(r.Events) != 5 {
		t.Errorf("%d prints with %d codes, %d instruments, %d lines of waste, %d knots", len(r.Runs), len(codes), len(r.Instruments), len(r.Waste), len(r.Events))
	}
	specimens := map[string]int64{}
	for _, s := range r.Specimens {
		specimens[s.RunID]++
	}
	for _, run := range r.Runs {
		if specimens[run.ID] != run.Copies {
			t.Errorf("%s has %d specimens of %d", run.Code, specimens[run.ID], run.Copies)
		}
	}
}
