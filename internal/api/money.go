package api

import (
	"context"
	"net/http"

	"ojime/internal/bench"
	"ojime/internal/work/money"
	"ojime/internal/work/readers"
)

// money is what machines cost, equipped alike, and what owning them comes to.
func (s *server) money() {
	serve(s, http.MethodGet, "/api/v1/reviews/{id}/money", "What the machines of a review cost, equipped alike, and what owning them comes to", func(ctx context.Context, in *byIDPath) (readers.MoneySheet, error) {
		return s.work.Readers.Money(ctx, in.ID)
	})
	serve(s, http.MethodPost, "/api/v1/prices", "Keep a price as it was asked on a day", func(ctx context.Context, in *created[bench.Price]) (bench.Price, error) {
		return s.work.Money.Ask(ctx, in.Body)
	})
	serve(s, http.MethodPost, "/api/v1/prices/{id}/taking-back", "Take a price back that was wrong", func(ctx context.Context, in *whyBack) (bench.Price, error) {
		return s.work.Money.TakeBack(ctx, in.ID, in.Body.Why)
	})
	serve(s, http.MethodGet, "/api/v1/resins/{id}/prices", "What a bottle of a resin was asked for, and what costs are worked out from", func(ctx context.Context, in *byIDPath) (money.ResinPrices, error) {
		return s.work.Money.OfResin(ctx, in.ID)
	})
	serve(s, http.MethodPost, "/api/v1/prices/{id}/taking-on", "Work costs out from a price of a resin as it was asked", func(ctx context.Context, in *byIDPath) (bench.Resin, error) {
		return s.work.Money.TakeOn(ctx, in.ID)
	})
	serve(s, http.MethodPost, "/api/v1/equipment", "Say of an item whether a machine came with it, needs it, or does without", func(ctx context.Context, in *created[bench.Equipment]) (bench.Equipment, error) {
		return s.work.Money.Equip(ctx, in.Body)
	})
	serve(s, http.MethodPut, "/api/v1/reviews/{id}/budget", "How an owner is taken to use a machine of a review", func(ctx context.Context, in *changed[bench.Budget]) (bench.Budget, error) {
		return s.work.Money.Budgeted(ctx, in.ID, in.Body)
	})
}
