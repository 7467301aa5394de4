package api

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"ojime/internal/core/quantity"
	"ojime/internal/work/sliced"
	"ojime/internal/work/task"
)

// slicedForm is an upload of a sliced print.
type slicedForm struct {
	File huma.FormFile `form:"file" required:"true"`
	Note string        `form:"note" required:"false"`
}

// slicedUpload is a sliced print by the id of what it is laid beside.
type slicedUpload struct {
	ID string `path:"id"`
	uploaded[slicedForm]
}

type slicedBack struct {
	ID   string `path:"id"`
	Body struct {
		Why string `json:"why" minLength:"1"`
	}
}

// sliced are sliced prints laid beside prints and settings.
func (s *server) sliced() {
	take := func(id, route, summary string, keep func(context.Context, string, sliced.SlicedUpload, task.Report) (sliced.SlicedSheet, error)) {
		op := huma.Operation{OperationID: id, Method: http.MethodPost, Path: route, Summary: summary, Tags: []string{"record"}, MaxBodyBytes: sliced.SlicedBytes + bodyBytes}
		serveOp(s, op, func(ctx context.Context, in *slicedUpload) (sliced.SlicedSheet, error) {
			form := in.RawBody.Data()
			defer func() { _ = form.File.Close() }() // it was only read
			if form.File.Size > sliced.SlicedBytes {
				return sliced.SlicedSheet{}, quantity.Errorf("file", "has %d MiB; sliced files up to %d MiB are read", form.File.Size>>20, sliced.SlicedBytes>>20)
			}
			report, done := s.jobs.begin(in.Job)
			defer done()
			return keep(ctx, in.ID, sliced.SlicedUpload{Name: form.File.Filename, Note: form.Note, Bytes: form.File.Size, File: form.File}, report)
		})
	}
	take("post-run-sliced", "/api/v1/runs/{id}/sliced-files", "Lay a sliced file beside a print", s.work.Sliced.SliceForRun)
	take("post-profile-sliced", "/api/v1/profiles/{id}/sliced-files", "Lay a sliced file beside settings", s.work.Sliced.SliceForProfile)
	serve(s, http.MethodGet, "/api/v1/runs/{id}/sliced-files", "The sliced files of a print beside what is on record", func(ctx context.Context, in *byIDPath) ([]sliced.SlicedSheet, error) {
		return s.work.Sliced.SlicedOfRun(ctx, in.ID)
	})
	serve(s, http.MethodGet, "/api/v1/profiles/{id}/sliced-files", "The sliced files of settings beside what is on record", func(ctx context.Context, in *byIDPath) ([]sliced.SlicedSheet, error) {
		return s.work.Sliced.SlicedOfProfile(ctx, in.ID)
	})
	serve(s, http.MethodPost, "/api/v1/sliced-files/{id}/taking-back", "Take a sliced file back with its reason", func(ctx context.Context, in *slicedBack) (sliced.SlicedSheet, error) {
		return s.work.Sliced.TakeSlicedBack(ctx, in.ID, in.Body.Why)
	})
	serveFile(s, "/api/v1/sliced-files/{id}/layers.csv", "A sliced file layer by layer", func(ctx context.Context, in *byIDPath) (string, string, []byte, error) {
		name, data, err := s.work.Sliced.SlicedLayersCSV(ctx, in.ID)
		return name, "text/csv; charset=utf-8", data, err
	})
}
