package api

import (
	"context"
	"net/http"

	"ojime/internal/bench"
	"ojime/internal/work/benchview"
)

// created is a request to create an entry.
type created[T any] struct{ Body T }

// changed is a request to change an entry, named by its path.
type changed[T any] struct {
	ID   string `path:"id"`
	Body T
}

func (s *server) kit() {
	serve(s, http.MethodGet, "/api/v1/bench", "Cords, beads, knots and what to do next", func(ctx context.Context, _ *nothing) (benchview.Bench, error) {
		return s.work.BenchView.Bench(ctx)
	})
	serve(s, http.MethodGet, "/api/v1/settings", "The reviewer's own figures", func(ctx context.Context, _ *nothing) (bench.Settings, error) {
		return s.work.Kit.Settings(ctx)
	})
	serve(s, http.MethodPut, "/api/v1/settings", "Change the reviewer's own figures", func(ctx context.Context, in *created[bench.Settings]) (bench.Settings, error) {
		return s.work.Kit.SaveSettings(ctx, in.Body)
	})
	resource(s, "/api/v1/machines", s.work.Kit.Machines, s.work.Kit.SaveMachine, func(m *bench.Machine, id string) { m.ID = id })
	resource(s, "/api/v1/resins", s.work.Kit.Resins, s.work.Kit.SaveResin, func(r *bench.Resin, id string) { r.ID = id })
	resource(s, "/api/v1/bottles", s.work.Kit.Bottles, s.work.Kit.SaveBottle, func(b *bench.Bottle, id string) { b.ID = id })
	resource(s, "/api/v1/instruments", s.work.Kit.Instruments, s.work.Kit.SaveInstrument, func(i *bench.Instrument, id string) { i.ID = id })
	resource(s, "/api/v1/reviews", s.work.Compare.Reviews, s.work.Compare.SaveReview, func(r *bench.Review, id string) { r.ID = id })
	serve(s, http.MethodPost, "/api/v1/machine-events", "Record what changed a machine", func(ctx context.Context, in *created[bench.MachineEvent]) (bench.MachineEvent, error) {
		return s.work.Kit.AddEvent(ctx, in.Body)
	})
}

// resource serves list, create and change of one kind of entry.
func resource[E, Card any](s *server, route string, list func(context.Context) ([]Card, error), save func(context.Context, E) (Card, error), name func(*E, string)) {
	serve(s, http.MethodGet, route, "List", func(ctx context.Context, _ *nothing) ([]Card, error) { return list(ctx) })
	serve(s, http.MethodPost, route, "Create", func(ctx context.Context, in *created[E]) (Card, error) {
		name(&in.Body, "")
		return save(ctx, in.Body)
	})
	serve(s, http.MethodPut, route+"/{id}", "Change; a stale version is refused", func(ctx context.Context, in *changed[E]) (Card, error) {
		name(&in.Body, in.ID)
		return save(ctx, in.Body)
	})
}
