package api

import (
	"context"
	"net/http"

	"ojime/internal/bench"
	"ojime/internal/core/rating"
	"ojime/internal/work/kit"
)

type machineRatingBack struct {
	ID       string `path:"id"`
	RatingID string `path:"rating_id"`
	Body     struct {
		Why string `json:"why"`
	}
}

// living is what it is like to live with machines.
func (s *server) living() {
	serve(s, http.MethodGet, "/api/v1/machines/{id}/living", "What living with a machine is like, by scale", func(ctx context.Context, in *byIDPath) (kit.Living, error) {
		return s.work.Kit.LivingWith(ctx, in.ID)
	})
	serve(s, http.MethodPost, "/api/v1/machine-scales", "Define a scale of machines of one's own", func(ctx context.Context, in *created[bench.OwnScale]) (rating.MachineScale, error) {
		return s.work.Kit.DefineMachineScale(ctx, in.Body)
	})
	serve(s, http.MethodPost, "/api/v1/machines/{id}/ratings", "Rate a machine", func(ctx context.Context, in *changed[bench.MachineRating]) (kit.Living, error) {
		return s.work.Kit.RateMachine(ctx, in.ID, in.Body)
	})
	serve(s, http.MethodPost, "/api/v1/machines/{id}/ratings/{rating_id}/taking-back", "Take a rating of a machine back", func(ctx context.Context, in *machineRatingBack) (kit.Living, error) {
		return s.work.Kit.TakeMachineRatingBack(ctx, in.ID, in.RatingID, in.Body.Why)
	})
}
