package api

import (
	"context"
	"net/http"

	"ojime/internal/bench"
	"ojime/internal/core/rating"
	"ojime/internal/work/firstdays"
	"ojime/internal/work/kit"
)

type machineRatingBack struct {
	ID       string `path:"id"`
	RatingID string `path:"rating_id"`
	Body     struct {
		Why string `json:"why"`
	}
}

type surveyBack struct {
	ID       string `path:"id"`
	SurveyID string `path:"survey_id"`
	Body     struct {
		Why string `json:"why"`
	}
}

// surveys are what was found usable of plates.
func (s *server) surveys() {
	serve(s, http.MethodGet, "/api/v1/machines/{id}/surveys", "What is usable of a machine's plate", func(ctx context.Context, in *byIDPath) (kit.PlateSurveys, error) {
		return s.work.Kit.PlateSurveys(ctx, in.ID)
	})
	serve(s, http.MethodPost, "/api/v1/machines/{id}/surveys", "Say what is usable of a machine's plate", func(ctx context.Context, in *changed[bench.PlateSurvey]) (kit.PlateSurveys, error) {
		return s.work.Kit.SurveyPlate(ctx, in.ID, in.Body)
	})
	serve(s, http.MethodPost, "/api/v1/machines/{id}/surveys/{survey_id}/taking-back", "Take a survey of a plate back", func(ctx context.Context, in *surveyBack) (kit.PlateSurveys, error) {
		return s.work.Kit.TakeSurveyBack(ctx, in.ID, in.SurveyID, in.Body.Why)
	})
}

type lightBack struct {
	ID     string `path:"id"`
	GridID string `path:"grid_id"`
	Body   struct {
		Why string `json:"why"`
	}
}

// light is how even the light of machines is.
func (s *server) light() {
	serve(s, http.MethodGet, "/api/v1/machines/{id}/light", "How even the light of a machine is", func(ctx context.Context, in *byIDPath) (firstdays.LightOver, error) {
		return s.work.FirstDays.Light(ctx, in.ID)
	})
	serve(s, http.MethodPost, "/api/v1/machines/{id}/light", "Keep what a meter read over a plate", func(ctx context.Context, in *changed[bench.LightGrid]) (firstdays.LightOver, error) {
		return s.work.FirstDays.MeasureLight(ctx, in.ID, in.Body)
	})
	serve(s, http.MethodPost, "/api/v1/machines/{id}/light/{grid_id}/taking-back", "Take a light grid back", func(ctx context.Context, in *lightBack) (firstdays.LightOver, error) {
		return s.work.FirstDays.TakeLightBack(ctx, in.ID, in.GridID, in.Body.Why)
	})
}

// living is what it is like to live with machines.
func (s *server) living() {
	serve(s, http.MethodGet, "/api/v1/machines/{id}/living", "What living with a machine is like, by scale", func(ctx context.Context, in *byIDPath) (firstdays.Living, error) {
		return s.work.FirstDays.LivingWith(ctx, in.ID)
	})
	serve(s, http.MethodPost, "/api/v1/machine-scales", "Define a scale of machines of one's own", func(ctx context.Context, in *created[bench.OwnScale]) (rating.MachineScale, error) {
		return s.work.FirstDays.DefineMachineScale(ctx, in.Body)
	})
	serve(s, http.MethodPost, "/api/v1/machines/{id}/ratings", "Rate a machine", func(ctx context.Context, in *changed[bench.MachineRating]) (firstdays.Living, error) {
		return s.work.FirstDays.RateMachine(ctx, in.ID, in.Body)
	})
	serve(s, http.MethodPost, "/api/v1/machines/{id}/ratings/{rating_id}/taking-back", "Take a rating of a machine back", func(ctx context.Context, in *machineRatingBack) (firstdays.Living, error) {
		return s.work.FirstDays.TakeMachineRatingBack(ctx, in.ID, in.RatingID, in.Body.Why)
	})
}
