package api

import (
	"context"
	"net/http"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/work/benchview"
	"ojime/internal/work/tally"
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
	resource(s, "/api/v1/instruments", s.work.Instruments.Instruments, s.work.Instruments.SaveInstrument, func(i *bench.Instrument, id string) { i.ID = id })
	resource(s, "/api/v1/reviews", s.work.Reviews.Reviews, s.work.Reviews.SaveReview, func(r *bench.Review, id string) { r.ID = id })
	serve(s, http.MethodPost, "/api/v1/machine-events", "Record what changed a machine", func(ctx context.Context, in *created[bench.MachineEvent]) (bench.MachineEvent, error) {
		return s.work.Kit.AddEvent(ctx, in.Body)
	})
	serve(s, http.MethodPatch, "/api/v1/machine-events/{id}", "Correct a knot", func(ctx context.Context, in *amended[eventChange]) (bench.MachineEvent, error) {
		return s.work.Kit.CorrectEvent(ctx, in.ID, in.Body.Version, in.Body.Change.raw, in.Body.Why)
	})
	serve(s, http.MethodPost, "/api/v1/machine-events/{id}/retirement", "Retire a knot with its reason", func(ctx context.Context, in *changed[retirement]) (bench.MachineEvent, error) {
		return s.work.Kit.RetireEvent(ctx, in.ID, in.Body.Version, in.Body.Why)
	})
	serve(s, http.MethodPatch, "/api/v1/bottles/{id}", "Correct a bottle's days, lot or empty weight", func(ctx context.Context, in *amended[bottleChange]) (bench.Bottle, error) {
		return s.work.Kit.CorrectBottle(ctx, in.ID, in.Body.Version, in.Body.Change.raw, in.Body.Why)
	})
	serve(s, http.MethodGet, "/api/v1/assemblies", "Models that are printed in parts, with what is known of the whole", func(ctx context.Context, _ *nothing) ([]tally.AssemblySheet, error) {
		return s.work.Tally.Assemblies(ctx)
	})
	serve(s, http.MethodPost, "/api/v1/assemblies", "Name pieces that are one model", func(ctx context.Context, in *created[bench.Assembly]) (tally.AssemblySheet, error) {
		in.Body.ID = ""
		return s.work.Tally.SaveAssembly(ctx, in.Body)
	})
	serve(s, http.MethodPut, "/api/v1/assemblies/{id}", "Change an assembly; a stale version is refused", func(ctx context.Context, in *changed[bench.Assembly]) (tally.AssemblySheet, error) {
		in.Body.ID = in.ID
		return s.work.Tally.SaveAssembly(ctx, in.Body)
	})
}

type retirement struct {
	Version int64  `json:"version"`
	Why     string `json:"why" minLength:"1"`
}

// resource serves list, create and change of one kind of entry.
func resource[E, Card any](s *server, route string, list func(context.Context) ([]Card, error), save func(context.Context, E) (Card, error), name func(*E, string)) {
	one := "a " + strings.TrimSuffix(strings.TrimPrefix(route, "/api/v1/"), "s")
	if strings.ContainsRune("aeio", rune(one[2])) {
		one = "an" + one[1:]
	}
	serve(s, http.MethodGet, route, "List", func(ctx context.Context, _ *nothing) ([]Card, error) { return list(ctx) })
	serve(s, http.MethodPost, route, "Enter "+one, func(ctx context.Context, in *created[E]) (Card, error) {
		name(&in.Body, "")
		return save(ctx, in.Body)
	})
	serve(s, http.MethodPut, route+"/{id}", "Change "+one+"; a stale version is refused", func(ctx context.Context, in *changed[E]) (Card, error) {
		name(&in.Body, in.ID)
		return save(ctx, in.Body)
	})
}
