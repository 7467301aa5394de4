package api

import (
	"context"
	"net/http"

	"ojime/internal/bench"
	"ojime/internal/work/aftercare"
	"ojime/internal/work/benchview"
	"ojime/internal/work/experiment"
	"ojime/internal/work/printing"
	"ojime/internal/work/tally"
	"ojime/internal/work/upkeep"
)

type windowQuery struct {
	FromMS int64 `query:"from_ms" required:"true"`
	ToMS   int64 `query:"to_ms" required:"true"`
}

type swapBody struct {
	Code string `path:"code"`
	Body struct {
		With string `json:"with" doc:"code of the other specimen; empty puts it right"`
	}
}

// after is what is done after a print and what wears.
func (s *server) after() {
	serve(s, http.MethodGet, "/api/v1/beads", "The beads of all cords in a window of time", func(ctx context.Context, in *windowQuery) ([]benchview.Bead, error) {
		return s.work.BenchView.Beads(ctx, in.FromMS, in.ToMS)
	})
	serve(s, http.MethodGet, "/api/v1/runs/{id}/after", "What is done to a print after it", func(ctx context.Context, in *byIDPath) (aftercare.Aftermath, error) {
		return s.work.Aftercare.After(ctx, in.ID)
	})
	serve(s, http.MethodPost, "/api/v1/runs/{id}/steps", "Begin, end or amend a step after a print", func(ctx context.Context, in *changed[bench.ProcessStep]) (aftercare.Aftermath, error) {
		return s.work.Aftercare.SaveStep(ctx, in.ID, in.Body)
	})
	serve(s, http.MethodPost, "/api/v1/specimens/{code}/swap", "Note that two specimens may have been swapped", func(ctx context.Context, in *swapBody) (printing.RunSheet, error) {
		return s.work.Aftercare.Swap(ctx, in.Code, in.Body.With)
	})
	resource(s, "/api/v1/baths", s.work.Upkeep.Baths, s.work.Upkeep.SaveBath, func(b *bench.Bath, id string) { b.ID = id })
	serve(s, http.MethodPost, "/api/v1/baths/{id}/renewals", "Fill a bath afresh; the old filling goes into the waste ledger", func(ctx context.Context, in *changed[upkeep.Renewal]) (upkeep.BathCard, error) {
		return s.work.Upkeep.RenewBath(ctx, in.ID, in.Body)
	})
	serve(s, http.MethodGet, "/api/v1/waste", "The waste ledger", func(ctx context.Context, _ *nothing) (upkeep.WasteLedger, error) {
		return s.work.Upkeep.Waste(ctx)
	})
	serve(s, http.MethodPost, "/api/v1/waste", "Append to the waste ledger", func(ctx context.Context, in *created[bench.Waste]) (upkeep.WasteLedger, error) {
		return s.work.Upkeep.AddWaste(ctx, in.Body)
	})
	serve(s, http.MethodGet, "/api/v1/bottle-cards", "Bottles with what is left in each", func(ctx context.Context, _ *nothing) ([]upkeep.BottleCard, error) {
		return s.work.Upkeep.BottleCards(ctx)
	})
	serve(s, http.MethodPost, "/api/v1/bottles/{id}/events", "A bottle was opened, weighed or emptied", func(ctx context.Context, in *changed[bench.BottleEvent]) (upkeep.BottleCard, error) {
		return s.work.Upkeep.HappenBottle(ctx, in.ID, in.Body)
	})
	serve(s, http.MethodGet, "/api/v1/upkeep", "What wears and what is due", func(ctx context.Context, _ *nothing) (upkeep.Upkeep, error) {
		return s.work.Upkeep.Upkeep(ctx)
	})
	serve(s, http.MethodPost, "/api/v1/reminders", "Record, amend or contradict a reminder", func(ctx context.Context, in *created[bench.Reminder]) (upkeep.Upkeep, error) {
		return s.work.Upkeep.SaveReminder(ctx, in.Body)
	})
	serve(s, http.MethodGet, "/api/v1/failures", "Failure rates of machines, resins, profiles and pieces", func(ctx context.Context, _ *nothing) (tally.FailureRates, error) {
		return s.work.Tally.FailureRates(ctx)
	})
	serve(s, http.MethodGet, "/api/v1/machines/{id}/failures", "Where and at what age prints of a machine fail", func(ctx context.Context, in *byIDPath) (upkeep.MachineFailures, error) {
		return s.work.Upkeep.MachineFailures(ctx, in.ID)
	})
	serve(s, http.MethodGet, "/api/v1/machine-events/{id}", "A knot, all that changed with it, and what would tell it apart", func(ctx context.Context, in *byIDPath) (experiment.ChangeSet, error) {
		return s.work.Experiment.ChangeSet(ctx, in.ID)
	})
}
