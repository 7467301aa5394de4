package api

import (
	"context"
	"net/http"

	"ojime/internal/bench"
	"ojime/internal/core/rating"
	"ojime/internal/work/inspect"
)

type takingRatingBack struct {
	ID   string `path:"id"`
	Body struct {
		Why string `json:"why" minLength:"1"`
	}
}

type linesQuery struct {
	MachineID string `query:"machine_id"`
	PieceID   string `query:"piece_id"`
}

// ratings are what is judged by eye and hand, on scales with anchors, in sittings.
func (s *server) ratings() {
	serve(s, http.MethodGet, "/api/v1/plates-to-read", "The newest prints in the order in which they are worth reading", func(ctx context.Context, _ *nothing) ([]inspect.PlateToRead, error) {
		return s.work.Inspect.Plates(ctx)
	})
	serve(s, http.MethodGet, "/api/v1/readings", "The newest readings of prints, also those that count no more", func(ctx context.Context, in *linesQuery) (inspect.ReadingLines, error) {
		return s.work.Inspect.Lines(ctx, inspect.LinesFilter{MachineID: in.MachineID, PieceID: in.PieceID})
	})
	serveFile(s, "/api/v1/runs/{id}/to-read.csv", "What is still to be read on a print, to be filled in elsewhere", func(ctx context.Context, in *byIDPath) (string, string, []byte, error) {
		name, data, err := s.work.Inspect.BlankTable(ctx, in.ID)
		return name, "text/csv; charset=utf-8", data, err
	})
	ask(s, "/api/v1/reading-previews", "What bringing a table of readings in would do, row by row", func(ctx context.Context, in *created[inspect.ReadingTable]) (inspect.ImportedReadings, error) {
		return s.work.Inspect.PreviewReadings(ctx, in.Body)
	})
	serve(s, http.MethodPost, "/api/v1/readings", "Bring a table of readings in", func(ctx context.Context, in *created[inspect.ReadingTable]) (inspect.ImportedReadings, error) {
		return s.work.Inspect.ImportReadings(ctx, in.Body)
	})
	serve(s, http.MethodGet, "/api/v1/rating-scales", "Scales with the anchors of their steps, the reviewer's own last", func(ctx context.Context, _ *nothing) ([]rating.Scale, error) {
		return s.work.Inspect.Scales(ctx)
	})
	serve(s, http.MethodPost, "/api/v1/rating-scales", "Define a scale of one's own", func(ctx context.Context, in *created[bench.OwnScale]) (rating.Scale, error) {
		return s.work.Inspect.DefineScale(ctx, in.Body)
	})
	serve(s, http.MethodGet, "/api/v1/sittings/latest", "The sitting begun last", func(ctx context.Context, _ *nothing) (inspect.CurrentSitting, error) {
		return s.work.Inspect.Sitting(ctx)
	})
	serve(s, http.MethodPost, "/api/v1/sittings", "Begin a sitting: by whom, from where, in which stage and light", func(ctx context.Context, in *created[bench.Sitting]) (bench.Sitting, error) {
		return s.work.Inspect.BeginSitting(ctx, in.Body)
	})
	serve(s, http.MethodPost, "/api/v1/ratings", "Rate a specimen or a copy of a reference", func(ctx context.Context, in *created[inspect.Score]) ([]bench.Rated, error) {
		return s.work.Inspect.Rate(ctx, in.Body)
	})
	serve(s, http.MethodPost, "/api/v1/ratings/{id}/taking-back", "Take a rating back with its reason", func(ctx context.Context, in *takingRatingBack) ([]bench.Rated, error) {
		return s.work.Inspect.TakeRatingBack(ctx, in.ID, in.Body.Why)
	})
}

// paper is the reading sheet of a print, and what was written on it.
func (s *server) paper() {
	serve(s, http.MethodGet, "/api/v1/runs/{id}/reading-sheet", "The reading sheet of a print, line by line", func(ctx context.Context, in *byIDPath) (inspect.Paper, error) {
		return s.work.Inspect.Paper(ctx, in.ID)
	})
	ask(s, "/api/v1/reading-sheet-previews/{id}", "What becomes of each line that was typed in", func(ctx context.Context, in *changed[inspect.TypedPaper]) (inspect.TypedFates, error) {
		return s.work.Inspect.PreviewPaper(ctx, in.ID, in.Body)
	})
	serve(s, http.MethodPost, "/api/v1/runs/{id}/reading-sheet", "Keep what was written on a reading sheet", func(ctx context.Context, in *changed[inspect.TypedPaper]) (inspect.TypedFates, error) {
		return s.work.Inspect.KeepPaper(ctx, in.ID, in.Body)
	})
}
