package api

import (
	"context"
	"net/http"

	"ojime/internal/bench"
	"ojime/internal/work/resincard"
)

type weighingBack struct {
	ID         string `path:"id"`
	WeighingID string `path:"weighing_id"`
}

// resinCards are what was measured of resins.
func (s *server) resinCards() {
	serve(s, http.MethodGet, "/api/v1/resins/{id}/card", "What was measured of a resin, and apart from it what its maker says", func(ctx context.Context, in *byIDPath) (resincard.Card, error) {
		return s.work.ResinCard.Card(ctx, in.ID)
	})
	serve(s, http.MethodPost, "/api/v1/resins/{id}/weighings", "A volume of a resin on the balance", func(ctx context.Context, in *changed[bench.ResinWeighing]) (resincard.Card, error) {
		return s.work.ResinCard.Weigh(ctx, in.ID, in.Body)
	})
	serve(s, http.MethodPost, "/api/v1/resins/{id}/weighings/{weighing_id}/taking-back", "Take a weighing back", func(ctx context.Context, in *weighingBack) (resincard.Card, error) {
		return s.work.ResinCard.TakeBack(ctx, in.ID, in.WeighingID)
	})
}
