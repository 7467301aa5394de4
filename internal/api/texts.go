package api

import (
	"context"
	"net/http"

	"ojime/internal/work/texts"
)

// texts are what the reviewer wrote, read over the shoulder.
func (s *server) texts() {
	serve(s, http.MethodGet, "/api/v1/reviews/{id}/texts", "What the reviewer wrote in a review, with what there is to question, and the figures that may stand live in it", func(ctx context.Context, in *byIDPath) (texts.TextsSheet, error) {
		return s.work.Texts.Sheet(ctx, in.ID)
	})
}
