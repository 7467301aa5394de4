package api

import (
	"context"
	"net/http"

	"ojime/internal/bench"
	"ojime/internal/work/readers"
)

type beginningReader struct {
	ID   string `path:"id"`
	Body struct {
		Example string `json:"example" minLength:"1" doc:"the key of a reader to begin with"`
	}
}

// readers are those whom a review is for.
func (s *server) readers() {
	serve(s, http.MethodGet, "/api/v1/reviews/{id}/readers", "The readers of a review, and what the record says for each", func(ctx context.Context, in *byIDPath) (readers.ReadersSheet, error) {
		return s.work.Readers.Sheet(ctx, in.ID)
	})
	serve(s, http.MethodPost, "/api/v1/reviews/{id}/readers", "Begin with a reader of the examples", func(ctx context.Context, in *beginningReader) (bench.Reader, error) {
		return s.work.Readers.Begin(ctx, in.ID, in.Body.Example)
	})
	serve(s, http.MethodPut, "/api/v1/readers/{id}", "What a reader weighs and must have", func(ctx context.Context, in *changed[bench.Reader]) (bench.Reader, error) {
		in.Body.ID = in.ID
		return s.work.Readers.Keep(ctx, in.Body)
	})
	serve(s, http.MethodPost, "/api/v1/readers/{id}/taking-back", "Take a reader back", func(ctx context.Context, in *whyBack) (bench.Reader, error) {
		return s.work.Readers.TakeBack(ctx, in.ID, in.Body.Why)
	})
}
