package api

import (
	"context"
	"net/http"

	"ojime/internal/work/task"
)

// undo is what was done in the last minutes, and the way back.
func (s *server) undo() {
	serve(s, http.MethodGet, "/api/v1/done-commands", "What was done in the last minutes", func(_ context.Context, _ *nothing) ([]task.Done, error) {
		return s.work.Recent(), nil
	})
	serve(s, http.MethodPost, "/api/v1/done-commands/{id}/undoing", "Undo what was done", func(ctx context.Context, in *byIDPath) ([]task.Done, error) {
		return s.work.Undo(ctx, in.ID)
	})
}
