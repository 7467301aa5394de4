package api

import (
	"context"
	"net/http"

	"ojime/internal/work/history"
	"ojime/internal/work/record"
	"ojime/internal/work/task"
)

type historyPath struct {
	Kind string `path:"kind" maxLength:"40"`
	ID   string `path:"id"`
}

type changesQuery struct {
	Kind string `query:"kind" maxLength:"40"`
	Skip int64  `query:"skip" minimum:"0" maximum:"10000000"`
}

type puttingBack struct {
	ID   string `path:"id"`
	Body struct {
		Why string `json:"why" required:"false"`
	}
}

// undo is what was done in the last minutes and the way back, and what was ever changed.
func (s *server) undo() {
	serve(s, http.MethodGet, "/api/v1/done-commands", "What was done in the last minutes", func(_ context.Context, _ *nothing) ([]task.Done, error) {
		return s.work.Recent(), nil
	})
	serve(s, http.MethodPost, "/api/v1/done-commands/{id}/undoing", "Undo what was done", func(ctx context.Context, in *byIDPath) ([]task.Done, error) {
		return s.work.Undo(ctx, in.ID)
	})
	serve(s, http.MethodGet, "/api/v1/history/{kind}/{id}", "What was changed of an entry", func(ctx context.Context, in *historyPath) ([]history.EntryChange, error) {
		return s.work.History.Of(ctx, in.Kind, in.ID)
	})
	serve(s, http.MethodGet, "/api/v1/changes", "What was changed of all entries, or of those of a kind, the newest first", func(ctx context.Context, in *changesQuery) ([]history.EntryChange, error) {
		return s.work.History.All(ctx, in.Kind, in.Skip)
	})
	serve(s, http.MethodGet, "/api/v1/safekeeping", "How the record is kept safe: backups by themselves", func(ctx context.Context, _ *nothing) (record.Safekeeping, error) {
		return s.work.Record.Safekeeping(ctx)
	})
	serve(s, http.MethodPost, "/api/v1/taken-back/{kind}/{id}/putting-back", "Have an entry that was taken back count again", func(ctx context.Context, in *restoring) ([]history.EntryChange, error) {
		return s.work.History.Restore(ctx, in.Kind, in.ID, in.Body.Why)
	})
	serve(s, http.MethodPost, "/api/v1/changes/{id}/putting-back", "Put back what a change changed", func(ctx context.Context, in *puttingBack) ([]history.EntryChange, error) {
		return s.work.History.PutBack(ctx, in.ID, in.Body.Why)
	})
}

type restoring struct {
	Kind string `path:"kind" maxLength:"40"`
	ID   string `path:"id"`
	Body struct {
		Why string `json:"why" maxLength:"500"`
	}
}
