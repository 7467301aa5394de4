package api

import (
	"context"
	"net/http"

	corestress "ojime/internal/core/stress"
	"ojime/internal/work/stress"
)

type stressRequest struct{ Body stress.Request }

type stressTesting struct {
	ID   string `path:"id"`
	Body stress.Seen
}

type stressWeighing struct {
	ID       string `path:"id"`
	MemberID string `path:"member_id"`
	Body     stress.Weighed
}

type stressEnding struct {
	ID   string `path:"id"`
	Body struct {
		Why string `json:"why"`
	}
}

// stresses are series of stress tests.
func (s *server) stresses() {
	serve(s, http.MethodGet, "/api/v1/stress-kinds", "Kinds of stress, with what their levels and classes of damage mean", func(_ context.Context, _ *nothing) ([]corestress.Kind, error) {
		return s.work.Stress.Kinds(), nil
	})
	serve(s, http.MethodGet, "/api/v1/stress-series", "Series of stress tests, the newest first", func(ctx context.Context, _ *nothing) ([]stress.Listed, error) {
		return s.work.Stress.All(ctx)
	})
	serve(s, http.MethodPost, "/api/v1/stress-drafts", "What a series would hold before it begins; nothing is kept", func(ctx context.Context, in *stressRequest) (stress.Draft, error) {
		return s.work.Stress.Draft(ctx, in.Body)
	})
	serve(s, http.MethodPost, "/api/v1/stress-series", "Begin a series of stress tests, in an order that is drawn", func(ctx context.Context, in *stressRequest) (stress.StressSheet, error) {
		return s.work.Stress.Begin(ctx, in.Body)
	})
	serve(s, http.MethodGet, "/api/v1/stress-series/{id}", "A series of stress tests, whose turn it is and what it shows", func(ctx context.Context, in *byIDPath) (stress.StressSheet, error) {
		return s.work.Stress.Series(ctx, in.ID)
	})
	serve(s, http.MethodPost, "/api/v1/stress-series/{id}/tests", "What the test that is next showed", func(ctx context.Context, in *stressTesting) (stress.StressSheet, error) {
		return s.work.Stress.Test(ctx, in.ID, in.Body)
	})
	serve(s, http.MethodPost, "/api/v1/stress-series/{id}/undo", "Take the last test back", func(ctx context.Context, in *byIDPath) (stress.StressSheet, error) {
		return s.work.Stress.Undo(ctx, in.ID)
	})
	serve(s, http.MethodPost, "/api/v1/stress-series/{id}/ending", "End a series before all of it is tested, with the reason", func(ctx context.Context, in *stressEnding) (stress.StressSheet, error) {
		return s.work.Stress.End(ctx, in.ID, in.Body.Why)
	})
	serve(s, http.MethodPost, "/api/v1/stress-series/{id}/going-on", "Go on with a series that was ended", func(ctx context.Context, in *byIDPath) (stress.StressSheet, error) {
		return s.work.Stress.GoOn(ctx, in.ID)
	})
	serve(s, http.MethodPost, "/api/v1/stress-series/{id}/specimens/{member_id}", "Mass, or width and thickness, of a specimen in a series", func(ctx context.Context, in *stressWeighing) (stress.StressSheet, error) {
		return s.work.Stress.Weigh(ctx, in.ID, in.MemberID, in.Body)
	})
}
