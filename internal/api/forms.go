package api

import (
	"context"
	"net/http"

	"ojime/internal/bench"
	"ojime/internal/core/metrology"
	"ojime/internal/work/printing"
)

type retiringForm struct {
	ID     string `path:"id"`
	FormID string `path:"form_id"`
}

type readingForm struct {
	Reading   bench.FormReading `json:"reading"`
	Confirmed bool              `json:"confirmed" required:"false" doc:"kept though its values are far apart"`
}

type formBack struct {
	ID        string `path:"id"`
	ReadingID string `path:"reading_id"`
	Body      struct {
		Why string `json:"why" minLength:"1"`
	}
}

// forms are roundness, angles, warp, feet, fits and threads.
func (s *server) forms() {
	serve(s, http.MethodGet, "/api/v1/form-kinds", "Kinds of form, and what each reading asks", func(context.Context, *nothing) ([]metrology.FormKind, error) {
		return s.work.Kit.FormKinds(), nil
	})
	serve(s, http.MethodGet, "/api/v1/pieces/{id}/forms", "What is measured of a piece beyond single sizes", func(ctx context.Context, in *byIDPath) ([]bench.Form, error) {
		return s.work.Kit.Forms(ctx, in.ID)
	})
	serve(s, http.MethodPost, "/api/v1/pieces/{id}/forms", "Measure a form of a piece from now on", func(ctx context.Context, in *changed[bench.Form]) ([]bench.Form, error) {
		return s.work.Kit.AddForm(ctx, in.ID, in.Body)
	})
	serve(s, http.MethodPost, "/api/v1/pieces/{id}/forms/{form_id}/retiring", "Measure a form no more", func(ctx context.Context, in *retiringForm) ([]bench.Form, error) {
		return s.work.Kit.RetireForm(ctx, in.ID, in.FormID)
	})
	serve(s, http.MethodPost, "/api/v1/runs/{id}/form-readings", "One reading of a form of a copy", func(ctx context.Context, in *changed[readingForm]) (printing.RunSheet, error) {
		return s.work.Inspect.ReadForm(ctx, in.ID, in.Body.Reading, in.Body.Confirmed)
	})
	serve(s, http.MethodPost, "/api/v1/runs/{id}/form-readings/{reading_id}/taking-back", "Take a reading of a form back with its reason", func(ctx context.Context, in *formBack) (printing.RunSheet, error) {
		return s.work.Inspect.TakeFormBack(ctx, in.ID, in.ReadingID, in.Body.Why)
	})
}
