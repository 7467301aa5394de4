package api

import (
	"context"
	"net/http"

	"ojime/internal/work/printing"
	"ojime/internal/work/repeat"
)

// repeats are prints made again.
func (s *server) repeats() {
	serve(s, http.MethodPost, "/api/v1/runs/{id}/again", "Prepare a print once more, as it was or with something changed", func(ctx context.Context, in *changed[repeat.Again]) (printing.RunSheet, error) {
		return s.work.Repeat.Print(ctx, in.ID, in.Body)
	})
	serve(s, http.MethodGet, "/api/v1/runs/{id}/tries", "Of which prints one was made again, and which were made again of it", func(ctx context.Context, in *byIDPath) (repeat.Tries, error) {
		return s.work.Repeat.Tries(ctx, in.ID)
	})
}
