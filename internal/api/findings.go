package api

import (
	"context"
	"net/http"

	"ojime/internal/work/findings"
)

type pickingFinding struct {
	ID   string `path:"id"`
	Body struct {
		Key   string `json:"key" required:"false" maxLength:"400" doc:"the row that is offered; empty for the reviewer's own word"`
		Words string `json:"words" required:"false" maxLength:"1000" doc:"what was found, in the reviewer's own words"`
	}
}

type rewordingFinding struct {
	ID   string `path:"id"`
	Body struct {
		Version int64  `json:"version"`
		Words   string `json:"words" maxLength:"1000" doc:"empty: the sentence that the record gives"`
	}
}

type orderingFindings struct {
	ID   string `path:"id"`
	Body struct {
		IDs []string `json:"ids" maxItems:"200"`
	}
}

type findingBack struct {
	ID   string `path:"id"`
	Body struct {
		Why string `json:"why" required:"false"`
	}
}

// findings are what a review publishes as found, and what it could.
func (s *server) findings() {
	serve(s, http.MethodGet, "/api/v1/reviews/{id}/findings", "What a review found, and what its comparisons and panels offer, each with its grade", func(ctx context.Context, in *byIDPath) (findings.FindingsSheet, error) {
		return s.work.Findings.Sheet(ctx, in.ID)
	})
	serve(s, http.MethodPost, "/api/v1/reviews/{id}/findings", "Pick a finding, or say one in words", func(ctx context.Context, in *pickingFinding) (findings.FindingsSheet, error) {
		return s.work.Findings.Pick(ctx, in.ID, in.Body.Key, in.Body.Words)
	})
	serve(s, http.MethodPut, "/api/v1/reviews/{id}/findings", "Put findings in order", func(ctx context.Context, in *orderingFindings) (findings.FindingsSheet, error) {
		return s.work.Findings.Order(ctx, in.ID, in.Body.IDs)
	})
	serve(s, http.MethodPost, "/api/v1/findings/{id}/wording", "Put a finding in other words", func(ctx context.Context, in *rewordingFinding) (findings.FindingsSheet, error) {
		return s.work.Findings.Reword(ctx, in.ID, in.Body.Version, in.Body.Words)
	})
	serve(s, http.MethodPost, "/api/v1/findings/{id}/taking-back", "Take a finding back", func(ctx context.Context, in *findingBack) (findings.FindingsSheet, error) {
		return s.work.Findings.TakeBack(ctx, in.ID, in.Body.Why)
	})
}
