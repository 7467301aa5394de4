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

type writingUp struct {
	ID   string `path:"id"`
	Body struct {
		Version int64        `json:"version"`
		Blocks  bench.Blocks `json:"blocks"`
	}
}

type leavingOpen struct {
	ID   string `path:"id"`
	Body bench.FollowUp
}

type answeringFollowUp struct {
	ID   string `path:"id"`
	Body struct {
		Version int64  `json:"version"`
		DueDay  string `json:"due_day" minLength:"10" maxLength:"10"`
		Answer  string `json:"answer" required:"false" maxLength:"1000" doc:"empty: it is open still, or again"`
	}
}

// parts are those of write-ups, in the reviewer's order, and what reviews leave open.
func (s *server) parts() {
	serve(s, http.MethodGet, "/api/v1/reviews/{id}/parts", "The parts of a review's write-up in their order", func(ctx context.Context, in *byIDPath) (publish.WriteUpParts, error) {
		return s.work.Publish.Parts(ctx, in.ID)
	})
	serve(s, http.MethodPut, "/api/v1/reviews/{id}/parts", "Put the parts of a review's write-up in order", func(ctx context.Context, in *writingUp) (bench.Review, error) {
		return s.work.Reviews.WriteUpAs(ctx, in.ID, in.Body.Version, in.Body.Blocks)
	})
	serve(s, http.MethodGet, "/api/v1/reviews/{id}/follow-ups", "What a review leaves open, the first due first", func(ctx context.Context, in *byIDPath) ([]bench.FollowUp, error) {
		return s.work.Reviews.FollowUps(ctx, in.ID)
	})
	serve(s, http.MethodPost, "/api/v1/reviews/{id}/follow-ups", "Leave a question open until a day", func(ctx context.Context, in *leavingOpen) ([]bench.FollowUp, error) {
		return s.work.Reviews.FollowUp(ctx, in.ID, in.Body)
	})
	serve(s, http.MethodPost, "/api/v1/follow-ups/{id}/answer", "Answer a question that was left open, or put it off", func(ctx context.Context, in *answeringFollowUp) ([]bench.FollowUp, error) {
		return s.work.Reviews.AnswerFollowUp(ctx, in.ID, in.Body.Version, in.Body.DueDay, in.Body.Answer)
	})
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
