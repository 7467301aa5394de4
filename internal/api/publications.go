package api

import (
	"context"
	"net/http"

	"ojime/internal/bench"
	"ojime/internal/work/publish"
)

type publishing struct {
	ID   string `path:"id"`
	Body struct {
		Why string `json:"why" required:"false" maxLength:"1000" doc:"needed where places in the text are questioned: why it goes out over them"`
	}
}

type correcting struct {
	ID   string `path:"id"`
	Body bench.Erratum
}

// publications are the versions of reviews that went out.
func (s *server) publications() {
	serve(s, http.MethodGet, "/api/v1/reviews/{id}/publications", "The versions of a review that went out, and what of them is stale", func(ctx context.Context, in *byIDPath) ([]publish.Edition, error) {
		return s.work.Publish.Editions(ctx, in.ID)
	})
	serve(s, http.MethodPost, "/api/v1/reviews/{id}/publications", "Freeze the review as it stands as its next version", func(ctx context.Context, in *publishing) ([]publish.Edition, error) {
		return s.work.Publish.Publish(ctx, in.ID, in.Body.Why)
	})
	serve(s, http.MethodPost, "/api/v1/publications/{id}/errata", "Add an erratum to a version that went out", func(ctx context.Context, in *correcting) ([]publish.Edition, error) {
		return s.work.Publish.Correct(ctx, in.ID, in.Body)
	})
	serveFile(s, "/api/v1/publications/{id}/write-up.md", "A version of a review as Markdown", func(ctx context.Context, in *byIDPath) (string, string, []byte, error) {
		data, err := s.work.Publish.Published(ctx, in.ID)
		return "review.md", "text/markdown; charset=utf-8", data, err
	})
	serveFile(s, "/api/v1/publications/{id}/write-up.html", "A version of a review as one HTML file", func(ctx context.Context, in *byIDPath) (string, string, []byte, error) {
		data, err := s.work.Publish.PublishedPage(ctx, in.ID)
		return "review.html", "text/html; charset=utf-8", data, err
	})
}
