package api

import (
	"context"
	"fmt"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"ojime/internal/bench"
	"ojime/internal/work/publish"
)

type publishing struct {
	ID   string `path:"id"`
	Body struct {
		Why       string `json:"why" required:"false" maxLength:"1000" doc:"needed where places in the text are questioned: why it goes out over them"`
		Confirmed bool   `json:"confirmed" required:"false" doc:"it goes out without the parts that can't be worked out"`
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

type pageQuery struct {
	ID   string `path:"id"`
	Show bool   `query:"show" doc:"to be looked at in a browser, not kept"`
}

// pagePolicy lets a page show what it holds itself, and nothing else.
const pagePolicy = "default-src 'none'; style-src 'unsafe-inline'; font-src data:; img-src data:; base-uri 'none'; form-action 'none'; frame-ancestors 'none'"

// pageReply is a page to keep, or to look at.
type pageReply struct {
	ContentType string `header:"Content-Type"`
	Disposition string `header:"Content-Disposition"`
	Policy      string `header:"Content-Security-Policy"`
	Body        []byte
}

// page registers a task that gives an HTML page, which may also be shown.
func (s *server) page(route, summary, name string, f func(context.Context, string) ([]byte, error)) {
	op := huma.Operation{OperationID: "file" + operationID(route), Method: http.MethodGet, Path: route, Summary: summary, Tags: []string{"files"}}
	huma.Register(s.api, op, func(ctx context.Context, in *pageQuery) (*pageReply, error) {
		data, err := f(ctx, in.ID)
		if err != nil {
			return nil, problem(err)
		}
		how := "attachment"
		if in.Show {
			how = "inline"
		}
		return &pageReply{ContentType: "text/html; charset=utf-8", Disposition: fmt.Sprintf("%s; filename=%q", how, name), Policy: pagePolicy, Body: data}, nil
	})
}

// pages are reviews as they go out.
func (s *server) pages() {
	s.page("/api/v1/reviews/{id}/write-up.html", "The review as one HTML file that needs nothing else", "review.html", s.work.Publish.Page)
	s.page("/api/v1/reviews/{id}/settings-sheet.html", "The settings of a review, to repeat its prints by", "settings.html", s.work.Publish.SettingsSheet)
	s.page("/api/v1/publications/{id}/write-up.html", "A version of a review as one HTML file", "review.html", s.work.Publish.PublishedPage)
	serveFile(s, "/api/v1/reviews/{id}/script.md", "The review as cues to be told by", func(ctx context.Context, in *byIDPath) (string, string, []byte, error) {
		data, err := s.work.Publish.Script(ctx, in.ID)
		return "script.md", "text/markdown; charset=utf-8", data, err
	})
}

type cardQuery struct {
	ID    string `path:"id"`
	Shape string `path:"shape" enum:"wide,tall"`
}

// cards are findings as pictures.
func (s *server) cards() {
	serveFile(s, "/api/v1/findings/{id}/cards/{shape}", "A finding as a PNG picture, wide (1200 × 675 px) or tall (1080 × 1350 px)", func(ctx context.Context, in *cardQuery) (string, string, []byte, error) {
		data, err := s.work.Publish.Card(ctx, in.ID, in.Shape)
		return "finding-" + in.Shape + ".png", "image/png", data, err
	})
}

// publications are the versions of reviews that went out.
func (s *server) publications() {
	serve(s, http.MethodGet, "/api/v1/reviews/{id}/publications", "The versions of a review that went out, and what of them is stale", func(ctx context.Context, in *byIDPath) ([]publish.Edition, error) {
		return s.work.Publish.Editions(ctx, in.ID)
	})
	serve(s, http.MethodPost, "/api/v1/reviews/{id}/publications", "Freeze the review as it stands as its next version", func(ctx context.Context, in *publishing) ([]publish.Edition, error) {
		return s.work.Publish.Publish(ctx, in.ID, in.Body.Why, in.Body.Confirmed)
	})
	serve(s, http.MethodPost, "/api/v1/publications/{id}/errata", "Add an erratum to a version that went out", func(ctx context.Context, in *correcting) ([]publish.Edition, error) {
		return s.work.Publish.Correct(ctx, in.ID, in.Body)
	})
	serveFile(s, "/api/v1/publications/{id}/write-up.md", "A version of a review as Markdown", func(ctx context.Context, in *byIDPath) (string, string, []byte, error) {
		data, err := s.work.Publish.Published(ctx, in.ID)
		return "review.md", "text/markdown; charset=utf-8", data, err
	})
}
