package api

import (
	"context"
	"net/http"

	"ojime/internal/bench"
	"ojime/internal/work"
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
	serve(s, http.MethodGet, "/api/v1/beads", "The beads of all cords in a window of time", func(ctx context.Context, in *windowQuery) ([]work.Bead, error) {
		return s.work.Beads(ctx, in.FromMS, in.ToMS)
	})
	serve(s, http.MethodGet, "/api/v1/runs/{id}/after", "What is done to a print after it", func(ctx context.Context, in *byIDPath) (work.Aftermath, error) {
		return s.work.After(ctx, in.ID)
	})
	serve(s, http.MethodPost, "/api/v1/runs/{id}/steps", "Begin, end or amend a step after a print", func(ctx context.Context, in *changed[bench.ProcessStep]) (work.Aftermath, error) {
		return s.work.SaveStep(ctx, in.ID, in.Body)
	})
	serve(s, http.MethodPost, "/api/v1/specimens/{code}/swap", "Note that two specimens may have been swapped", func(ctx context.Context, in *swapBody) (work.RunSheet, error) {
		return s.work.Swap(ctx, in.Code, in.Body.With)
	})
	resource(s, "/api/v1/baths", s.work.Baths, s.work.SaveBath, func(b *bench.Bath, id string) { b.ID = id })
	serve(s, http.MethodPost, "/api/v1/baths/{id}/renewals", "Fill a bath afresh; the old filling goes into the waste ledger", func(ctx context.Context, in *changed[work.Renewal]) (work.BathCard, error) {
		return s.work.RenewBath(ctx, in.ID, in.Body)
	})
	serve(s, http.MethodGet, "/api/v1/waste", "The waste ledger", func(ctx context.Context, _ *nothing) (work.WasteLedger, error) {
		return s.work.Waste(ctx)
	})
	serve(s, http.MethodPost, "/api/v1/waste", "Append to the waste ledger", func(ctx context.Context, in *created[bench.Waste]) (work.WasteLedger, error) {
		return s.work.AddWaste(ctx, in.Body)
	})
	serve(s, http.MethodGet, "/api/v1/bottle-cards", "Bottles with what is left in each", func(ctx context.Context, _ *nothing) ([]work.BottleCard, error) {
		return s.work.BottleCards(ctx)
	})
	serve(s, http.MethodPost, "/api/v1/bottles/{id}/events", "A bottle was opened, weighed or emptied", func(ctx context.Context, in *changed[bench.BottleEvent]) (work.BottleCard, error) {
		return s.work.HappenBottle(ctx, in.ID, in.Body)
	})
	serve(s, http.MethodGet, "/api/v1/upkeep", "What wears and what is due", func(ctx context.Context, _ *nothing) (work.Upkeep, error) {
		return s.work.Upkeep(ctx)
	})
	serve(s, http.MethodPost, "/api/v1/reminders", "Record, amend or contradict a reminder", func(ctx context.Context, in *created[bench.Reminder]) (work.Upkeep, error) {
		return s.work.SaveReminder(ctx, in.Body)
	})
	serve(s, http.MethodGet, "/api/v1/failures", "Failure rates of machines, resins, profiles and pieces", func(ctx context.Context, _ *nothing) (work.FailureRates, error) {
		return s.work.FailureRates(ctx)
	})
	serve(s, http.MethodGet, "/api/v1/machines/{id}/failures", "Where and at what age prints of a machine fail", func(ctx context.Context, in *byIDPath) (work.MachineFailures, error) {
		return s.work.MachineFailures(ctx, in.ID)
	})
	serve(s, http.MethodGet, "/api/v1/machine-events/{id}", "A knot, all that changed with it, and what would tell it apart", func(ctx context.Context, in *byIDPath) (work.ChangeSet, error) {
		return s.work.ChangeSet(ctx, in.ID)
	})
}
