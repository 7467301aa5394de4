package api

import (
	"context"
	"net/http"

	"ojime/internal/bench"
	"ojime/internal/work/inspect"
)

type referenceReadings struct {
	ID   string `path:"id"`
	Body struct {
		Readings  []bench.ReferenceReading `json:"readings" minItems:"1" maxItems:"1000"`
		Confirmed bool                     `json:"confirmed" required:"false" doc:"true keeps values that were questioned"`
	}
}

type takingBackOfReference struct {
	ID        string `path:"id"`
	ReadingID string `path:"reading_id"`
	Body      struct {
		Why string `json:"why" minLength:"1"`
	}
}

// references are what no print on record made, with what was read of it.
func (s *server) references() {
	serve(s, http.MethodGet, "/api/v1/references", "References, with what was read of each", func(ctx context.Context, _ *nothing) ([]inspect.ReferenceSheet, error) {
		return s.work.Inspect.References(ctx)
	})
	serve(s, http.MethodGet, "/api/v1/references/{id}", "One reference, with what was read of it", func(ctx context.Context, in *byIDPath) (inspect.ReferenceSheet, error) {
		return s.work.Inspect.Reference(ctx, in.ID)
	})
	serve(s, http.MethodPost, "/api/v1/references", "Enter a reference", func(ctx context.Context, in *created[bench.Reference]) (inspect.ReferenceSheet, error) {
		in.Body.ID = ""
		return s.work.Inspect.SaveReference(ctx, in.Body)
	})
	serve(s, http.MethodPut, "/api/v1/references/{id}", "Change what is said of a reference; a stale version is refused", func(ctx context.Context, in *changed[bench.Reference]) (inspect.ReferenceSheet, error) {
		in.Body.ID = in.ID
		return s.work.Inspect.SaveReference(ctx, in.Body)
	})
	serve(s, http.MethodPost, "/api/v1/references/{id}/readings", "Append readings of a reference", func(ctx context.Context, in *referenceReadings) (inspect.ReferenceSheet, error) {
		return s.work.Inspect.ReadReference(ctx, in.ID, in.Body.Readings, in.Body.Confirmed)
	})
	serve(s, http.MethodPost, "/api/v1/references/{id}/readings/{reading_id}/taking-back", "Take a reading of a reference back", func(ctx context.Context, in *takingBackOfReference) (inspect.ReferenceSheet, error) {
		return s.work.Inspect.TakeBackOfReference(ctx, in.ID, in.ReadingID, in.Body.Why)
	})
}
