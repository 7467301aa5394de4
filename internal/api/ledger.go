package api

import (
	"context"
	"net/http"

	"ojime/internal/bench"
	"ojime/internal/work/disclosure"
	"ojime/internal/work/ledger"
)

type whyBack struct {
	ID   string `path:"id"`
	Body struct {
		Why string `json:"why" minLength:"1"`
	}
}

type interestsQuery struct {
	Of string `query:"of" required:"true" doc:"the id of a machine, resin, piece, reference or review"`
}

// ledger is what is claimed, with what became of it, and how what is reviewed came to the reviewer.
func (s *server) ledger() {
	serve(s, http.MethodGet, "/api/v1/reviews/{id}/claims", "What is claimed of its machines and resins, each with what was measured", func(ctx context.Context, in *byIDPath) (ledger.LedgerSheet, error) {
		return s.work.Ledger.Sheet(ctx, in.ID)
	})
	serve(s, http.MethodPost, "/api/v1/claims", "Write a claim down", func(ctx context.Context, in *created[bench.LedgerClaim]) (bench.LedgerClaim, error) {
		in.Body.ID = ""
		return s.work.Ledger.Keep(ctx, in.Body)
	})
	serve(s, http.MethodPut, "/api/v1/claims/{id}", "Change what was written down of a claim", func(ctx context.Context, in *changed[bench.LedgerClaim]) (bench.LedgerClaim, error) {
		in.Body.ID = in.ID
		return s.work.Ledger.Keep(ctx, in.Body)
	})
	serve(s, http.MethodPost, "/api/v1/claims/{id}/taking-back", "Take a claim back", func(ctx context.Context, in *whyBack) (bench.LedgerClaim, error) {
		return s.work.Ledger.TakeBack(ctx, in.ID, in.Body.Why)
	})
	serve(s, http.MethodGet, "/api/v1/interests", "How a thing came to the reviewer, and what else ties them to its maker", func(ctx context.Context, in *interestsQuery) ([]disclosure.InterestShown, error) {
		return s.work.Disclosure.Interests(ctx, in.Of)
	})
	serve(s, http.MethodPost, "/api/v1/interests", "Note how a thing came, or another tie to its maker", func(ctx context.Context, in *created[bench.Interest]) ([]disclosure.InterestShown, error) {
		return s.work.Disclosure.Tie(ctx, in.Body)
	})
	serve(s, http.MethodPost, "/api/v1/interests/{id}/taking-back", "Take back how a thing came", func(ctx context.Context, in *whyBack) ([]disclosure.InterestShown, error) {
		return s.work.Disclosure.TakeTieBack(ctx, in.ID, in.Body.Why)
	})
	serve(s, http.MethodGet, "/api/v1/reviews/{id}/disclosure", "What a review has to disclose", func(ctx context.Context, in *byIDPath) ([]disclosure.Disclosed, error) {
		return s.work.Disclosure.OfReview(ctx, in.ID)
	})
}
