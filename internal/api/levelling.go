package api

import (
	"context"
	"net/http"

	"ojime/internal/bench"
	"ojime/internal/work/firstdays"
)

type firstLayerBody struct {
	ID          string `path:"id"`
	LevellingID string `path:"levelling_id"`
	Body        struct {
		FirstLayer     string `json:"first_layer" enum:",even,uneven,let_go"`
		FirstLayerNote string `json:"first_layer_note" required:"false"`
	}
}

type levellingBack struct {
	ID          string `path:"id"`
	LevellingID string `path:"levelling_id"`
	Body        struct {
		Why string `json:"why" minLength:"1"`
	}
}

// levelling is how machines are levelled, and whether a first layer verified that.
func (s *server) levelling() {
	serve(s, http.MethodGet, "/api/v1/machines/{id}/levellings", "How a machine was levelled", func(ctx context.Context, in *byIDPath) (firstdays.Levellings, error) {
		return s.work.FirstDays.Levellings(ctx, in.ID)
	})
	serve(s, http.MethodPost, "/api/v1/machines/{id}/levellings", "Level a machine, with its corners and its knot", func(ctx context.Context, in *changed[bench.Levelling]) (firstdays.Levellings, error) {
		return s.work.FirstDays.LevelMachine(ctx, in.ID, in.Body)
	})
	serve(s, http.MethodPost, "/api/v1/machines/{id}/levellings/{levelling_id}/first-layer", "Say what the first layer looked like", func(ctx context.Context, in *firstLayerBody) (firstdays.Levellings, error) {
		return s.work.FirstDays.SeeFirstLayer(ctx, in.ID, in.LevellingID, in.Body.FirstLayer, in.Body.FirstLayerNote)
	})
	serve(s, http.MethodPost, "/api/v1/machines/{id}/levellings/{levelling_id}/taking-back", "Take a levelling back, and its knot", func(ctx context.Context, in *levellingBack) (firstdays.Levellings, error) {
		return s.work.FirstDays.TakeLevellingBack(ctx, in.ID, in.LevellingID, in.Body.Why)
	})
}
