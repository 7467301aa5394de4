package api

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"ojime/internal/bench"
	"ojime/internal/work/panels"
)

type byToken struct {
	Token string `path:"token" maxLength:"60"`
}

type codedPicture struct {
	Token string `path:"token" maxLength:"60"`
	Code  string `path:"code" maxLength:"10"`
}

type votes struct {
	Token string `path:"token" maxLength:"60"`
	Body  panels.Vote
}

type coding struct {
	ID   string `path:"id"`
	Body struct {
		panels.Coder
		Specimen string `json:"specimen" minLength:"1" maxLength:"40" doc:"the code on its label"`
	}
}

type votingAgain struct {
	ID    string `path:"id"`
	Judge int64  `path:"judge" minimum:"1"`
	Body  struct {
		Why string `json:"why" minLength:"1"`
	}
}

type ballotCode struct {
	ID    string `path:"id"`
	Judge int64  `path:"judge" minimum:"1"`
	URL   string `query:"url" required:"true"`
}

type panelBack struct {
	ID   string `path:"id"`
	Body struct {
		Why string `json:"why" minLength:"1"`
	}
}

type picturePage struct {
	ContentType string `header:"Content-Type"`
	Body        []byte
}

// panels are blind panels, as the reviewer leads them.
func (s *server) panels() {
	serve(s, http.MethodGet, "/api/v1/reviews/{id}/panels", "Blind panels of a review, the last first", func(ctx context.Context, in *byIDPath) ([]panels.PanelSheet, error) {
		return s.work.Panels.OfReview(ctx, in.ID)
	})
	serve(s, http.MethodGet, "/api/v1/panels", "All blind panels", func(ctx context.Context, _ *struct{}) ([]bench.Panel, error) {
		return s.work.Panels.All(ctx)
	})
	serve(s, http.MethodGet, "/api/v1/reviews/{id}/panel-choices", "What a blind panel of a review can be made of", func(ctx context.Context, in *byIDPath) (panels.Choices, error) {
		return s.work.Panels.Choices(ctx, in.ID)
	})
	serve(s, http.MethodPost, "/api/v1/reviews/{id}/panels", "Deal a blind panel", func(ctx context.Context, in *changed[bench.Panel]) (panels.PanelSheet, error) {
		return s.work.Panels.Make(ctx, in.ID, in.Body)
	})
	serve(s, http.MethodGet, "/api/v1/panels/{id}", "A blind panel: nothing of it tells an arm before it closes", func(ctx context.Context, in *byIDPath) (panels.PanelSheet, error) {
		return s.work.Panels.Panel(ctx, in.ID)
	})
	serve(s, http.MethodPost, "/api/v1/panels/{id}/coding", "The code that goes on a specimen, told while the panel is being coded", func(ctx context.Context, in *coding) (panels.CodeFor, error) {
		return s.work.Panels.Code(ctx, in.ID, in.Body.Specimen, in.Body.Coder)
	})
	serve(s, http.MethodPost, "/api/v1/panels/{id}/sealing", "Seal a blind panel: judges can vote from now on", func(ctx context.Context, in *byIDPath) (panels.PanelSheet, error) {
		return s.work.Panels.Seal(ctx, in.ID)
	})
	serve(s, http.MethodPost, "/api/v1/panels/{id}/closing", "Close a blind panel and tell its key, early with the reason", func(ctx context.Context, in *changed[panels.Closing]) (panels.PanelSheet, error) {
		return s.work.Panels.Close(ctx, in.ID, in.Body)
	})
	serve(s, http.MethodPost, "/api/v1/panels/{id}/ballots/{judge}/again", "Let a judge vote again", func(ctx context.Context, in *votingAgain) (panels.PanelSheet, error) {
		return s.work.Panels.Again(ctx, in.ID, in.Judge, in.Body.Why)
	})
	serve(s, http.MethodPost, "/api/v1/panels/{id}/taking-back", "Take a blind panel back with its reason", func(ctx context.Context, in *panelBack) (panels.PanelSheet, error) {
		return s.work.Panels.TakeBack(ctx, in.ID, in.Body.Why)
	})
	serveFile(s, "/api/v1/panels/{id}/guess-page.html", "A page of its own on which anybody can answer with pictures", func(ctx context.Context, in *byIDPath) (string, string, []byte, error) {
		name, page, err := s.work.Panels.GuessPage(ctx, in.ID)
		return name, "text/html; charset=utf-8", page, err
	})
	serve(s, http.MethodPost, "/api/v1/panels/{id}/answer-files", "Take a file of answers as one ballot", func(ctx context.Context, in *changed[panels.AnswersFile]) (panels.PanelSheet, error) {
		return s.work.Panels.Take(ctx, in.ID, in.Body)
	})
	serveFile(s, "/api/v1/panels/{id}/ballots/{judge}/qr.png", "The code that opens a ballot on a judge's own phone", func(ctx context.Context, in *ballotCode) (string, string, []byte, error) {
		token, err := s.work.Panels.TokenOf(ctx, in.ID, in.Judge)
		if err != nil {
			return "", "", nil, err
		}
		data, err := qrCode(in.URL, "/ballot/"+token)
		return "ballot.png", "image/png", data, err
	})
	s.ballots()
}

// ballots are what a link opens to a judge, and nothing else is.
func (s *server) ballots() {
	serve(s, http.MethodGet, "/api/v1/ballots/{token}", "The ballot that a link opens", func(ctx context.Context, in *byToken) (panels.JudgesBallot, error) {
		return s.work.Panels.Ballot(ctx, in.Token)
	})
	serve(s, http.MethodPost, "/api/v1/ballots/{token}", "Cast a ballot, whole and once", func(ctx context.Context, in *votes) (panels.JudgesBallot, error) {
		return s.work.Panels.Cast(ctx, in.Token, in.Body)
	})
	op := huma.Operation{OperationID: "picture-of-ballot", Method: http.MethodGet, Path: "/api/v1/ballots/{token}/pictures/{code}", Summary: "A photograph by its code, as a ballot shows it", Tags: []string{"files"}}
	huma.Register(s.api, op, func(ctx context.Context, in *codedPicture) (*picturePage, error) {
		data, err := s.work.Panels.Picture(ctx, in.Token, in.Code)
		if err != nil {
			return nil, problem(err)
		}
		return &picturePage{"image/jpeg", data}, nil
	})
}
