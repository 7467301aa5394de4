package api

import (
	"context"
	"net/http"

	"ojime/internal/work/tables"
)

type tablePath struct {
	Kind string `path:"kind" maxLength:"40"`
}

type tableText struct {
	Kind string `path:"kind" maxLength:"40"`
	Body struct {
		Text string `json:"text" minLength:"1" maxLength:"2000000"`
	}
}

type tableRows struct {
	Kind string `path:"kind" maxLength:"40"`
	Body tables.Rows
}

// tables are the tables in which many entries are taken at once.
func (s *server) tables() {
	serve(s, http.MethodGet, "/api/v1/tables/{kind}", "What a table asks for", func(ctx context.Context, in *tablePath) (tables.Table, error) {
		return s.work.Tables.Describe(ctx, in.Kind)
	})
	ask(s, "/api/v1/table-texts/{kind}", "A text that was pasted into a table, as rows of cells; nothing is kept", func(_ context.Context, in *tableText) (tables.Pasted, error) {
		return s.work.Tables.Paste(in.Kind, in.Body.Text)
	})
	ask(s, "/api/v1/table-looks/{kind}", "What becomes of each row of a table; nothing is kept", func(ctx context.Context, in *tableRows) (tables.Fates, error) {
		return s.work.Tables.Look(ctx, in.Kind, in.Body)
	})
	serve(s, http.MethodPost, "/api/v1/tables/{kind}", "Keep the rows of a table that can be kept", func(ctx context.Context, in *tableRows) (tables.Fates, error) {
		return s.work.Tables.Keep(ctx, in.Kind, in.Body)
	})
	serveFile(s, "/api/v1/table-files/{kind}", "What the record holds of a table as CSV", func(ctx context.Context, in *tablePath) (string, string, []byte, error) {
		data, err := s.work.Tables.File(ctx, in.Kind)
		return in.Kind, "text/csv; charset=utf-8", data, err
	})
}
