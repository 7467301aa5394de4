package api

import (
	"context"
	"net/http"

	"ojime/internal/bench"
	"ojime/internal/work/firstdays"
	"ojime/internal/work/tally"
)

type stepBack struct {
	ID     string `path:"id"`
	StepID string `path:"step_id"`
	Body   struct {
		Why string `json:"why" minLength:"1"`
	}
}

// software is what is done with pieces on a computer before they are printed.
func (s *server) software() {
	serve(s, http.MethodGet, "/api/v1/software", "What was done on computers, and what each version of a program comes to", func(ctx context.Context, _ *nothing) (firstdays.Software, error) {
		return s.work.FirstDays.Software(ctx)
	})
	serve(s, http.MethodGet, "/api/v1/software/prints", "Prints by the program that they were prepared with", func(ctx context.Context, _ *nothing) ([]tally.PrintsOfProgram, error) {
		return s.work.Tally.BySoftware(ctx)
	})
	serve(s, http.MethodGet, "/api/v1/pieces/{id}/software-steps", "What was done with a piece on a computer", func(ctx context.Context, in *byIDPath) (firstdays.Software, error) {
		return s.work.FirstDays.Software(ctx, in.ID)
	})
	serve(s, http.MethodPost, "/api/v1/pieces/{id}/software-steps", "Clock a step of a piece on a computer", func(ctx context.Context, in *changed[bench.SoftwareStep]) (firstdays.Software, error) {
		return s.work.FirstDays.ClockStep(ctx, in.ID, in.Body)
	})
	serve(s, http.MethodPost, "/api/v1/pieces/{id}/software-steps/{step_id}/taking-back", "Take a step on a computer back", func(ctx context.Context, in *stepBack) (firstdays.Software, error) {
		return s.work.FirstDays.TakeStepBack(ctx, in.ID, in.StepID, in.Body.Why)
	})
}
