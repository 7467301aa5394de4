package api

import (
	"context"
	"fmt"
	"io"
	"net/http"
	"strconv"
	"strings"

	"github.com/danielgtaylor/huma/v2"

	"ojime/internal/bench"
	"ojime/internal/core/photo"
	"ojime/internal/core/quantity"
	"ojime/internal/work/photographs"
)

// photoForm is an upload of a photograph with how it was taken.
type photoForm struct {
	File          huma.FormFile `form:"file" required:"true"`
	OfID          string        `form:"of_id" required:"true"`
	SpecimenID    string        `form:"specimen_id" required:"true"`
	FeatureID     string        `form:"feature_id" required:"false"`
	DefectID      string        `form:"defect_id" required:"false"`
	Station       string        `form:"station" required:"true"`
	Magnification string        `form:"magnification" required:"false"`
	Stage         string        `form:"stage" required:"true"`
	Light         string        `form:"light" required:"true"`
	Note          string        `form:"note" required:"false"`
}

func (f photoForm) taken() (photographs.Taken, error) {
	in := photographs.Taken{OfID: f.OfID, SpecimenID: f.SpecimenID, FeatureID: f.FeatureID, DefectID: f.DefectID, Station: f.Station, Stage: f.Stage, Light: f.Light, Note: f.Note, FileName: f.File.Filename, FileBytes: f.File.Size}
	if text := strings.TrimSpace(f.Magnification); text != "" {
		v, err := strconv.ParseFloat(strings.Replace(text, ",", ".", 1), 64)
		if err != nil || !(v > 1) {
			return in, quantity.Errorf("magnification", "is %.20q; give a number above 1", text)
		}
		in.Magnification = &v
	}
	in.Read = read(f.File)
	return in, nil
}

type shownIn struct {
	ID   string `path:"id"`
	Size string `path:"size" enum:"large,small,original"`
}

type takingPhotoBack struct {
	ID   string `path:"id"`
	Body struct {
		Why   string `json:"why" minLength:"1"`
		Erase bool   `json:"erase" doc:"remove its files from the disk too, for good"`
	}
}

type measuring struct {
	ID   string `path:"id"`
	Body bench.PhotoMeasure
}

type takingMeasureBack struct {
	ID        string `path:"id"`
	MeasureID string `path:"measure_id"`
	Body      struct {
		Why string `json:"why" minLength:"1"`
	}
}

type besideQuery struct {
	IDs []string `query:"id,explode" minItems:"1" maxItems:"6" required:"true"`
}

type sheetQuery struct {
	IDs    []string `query:"id,explode" minItems:"1" maxItems:"6" required:"true"`
	Labels []string `query:"label,explode" maxItems:"6" maxLength:"80"`
	Blind  bool     `query:"blind"`
}

func (q sheetQuery) request() photographs.SheetRequest {
	return photographs.SheetRequest{IDs: q.IDs, Labels: q.Labels, Blind: q.Blind}
}

// unitPhotoForm is an upload of a photograph of a unit.
type unitPhotoForm struct {
	File  huma.FormFile `form:"file" required:"true"`
	Shows string        `form:"shows" required:"true"`
	Note  string        `form:"note" required:"false"`
}

type unitPhotoUpload struct {
	uploaded[unitPhotoForm]
	ID string `path:"id"`
}

// read reads an uploaded file as a whole.
func read(f huma.FormFile) func() ([]byte, error) {
	return func() ([]byte, error) {
		defer func() { _ = f.Close() }() // it was only read
		data := make([]byte, f.Size)
		if _, err := io.ReadFull(f, data); err != nil {
			return nil, fmt.Errorf("read the upload: %w", err)
		}
		return data, nil
	}
}

// unitPhotographs are pictures of the very units of machines.
func (s *server) unitPhotographs() {
	serve(s, http.MethodGet, "/api/v1/machines/{id}/photographs", "Photographs of the unit of a machine", func(ctx context.Context, in *byIDPath) ([]bench.UnitPhotograph, error) {
		return s.work.Photographs.OfUnit(ctx, in.ID)
	})
	op := huma.Operation{OperationID: "post-unit-photographs", Method: http.MethodPost, Path: "/api/v1/machines/{id}/photographs", Summary: "Keep a photograph of the unit of a machine", Tags: []string{"record"}, MaxBodyBytes: photo.MostBytes + bodyBytes}
	serveOp(s, op, func(ctx context.Context, in *unitPhotoUpload) ([]bench.UnitPhotograph, error) {
		f := in.RawBody.Data()
		report, done := s.jobs.begin(in.Job)
		defer done()
		return s.work.Photographs.KeepOfUnit(ctx, photographs.TakenOfUnit{MachineID: in.ID, Shows: f.Shows, Note: f.Note, FileName: f.File.Filename, FileBytes: f.File.Size, Read: read(f.File)}, report)
	})
	serveFile(s, "/api/v1/unit-photographs/{id}/files/{size}", "A copy of a photograph of a unit without tags, or the file as it was received", func(ctx context.Context, in *shownIn) (string, string, []byte, error) {
		return s.work.Photographs.FileOfUnit(ctx, in.ID, in.Size)
	})
	serve(s, http.MethodPost, "/api/v1/unit-photographs/{id}/taking-back", "Take a photograph of a unit back with its reason, or erase it", func(ctx context.Context, in *takingPhotoBack) ([]bench.UnitPhotograph, error) {
		return s.work.Photographs.TakeBackOfUnit(ctx, in.ID, in.Body.Why, in.Body.Erase)
	})
}

// photographs are pictures of specimens and references, what is measured on them, and sheets
// of them.
func (s *server) photographs() {
	s.unitPhotographs()
	op := huma.Operation{OperationID: "post-photographs", Method: http.MethodPost, Path: "/api/v1/photographs", Summary: "Keep a photograph of a specimen or of a copy of a reference", Tags: []string{"record"}, MaxBodyBytes: photo.MostBytes + bodyBytes}
	serveOp(s, op, func(ctx context.Context, in *uploaded[photoForm]) (bench.Pictured, error) {
		taken, err := in.RawBody.Data().taken()
		if err != nil {
			return bench.Pictured{}, err
		}
		report, done := s.jobs.begin(in.Job)
		defer done()
		return s.work.Photographs.Keep(ctx, taken, report)
	})
	serve(s, http.MethodGet, "/api/v1/photographs/{id}", "A photograph with what was measured on it", func(ctx context.Context, in *byIDPath) (bench.Pictured, error) {
		return s.work.Photographs.One(ctx, in.ID)
	})
	serveFile(s, "/api/v1/photographs/{id}/files/{size}", "A copy of a photograph without tags, or the file as it was received", func(ctx context.Context, in *shownIn) (string, string, []byte, error) {
		return s.work.Photographs.File(ctx, in.ID, in.Size)
	})
	serve(s, http.MethodPost, "/api/v1/photographs/{id}/taking-back", "Take a photograph back with its reason, or erase it", func(ctx context.Context, in *takingPhotoBack) (bench.Photograph, error) {
		return s.work.Photographs.TakeBack(ctx, in.ID, in.Body.Why, in.Body.Erase)
	})
	serve(s, http.MethodPost, "/api/v1/photographs/{id}/measures", "Measure on a photograph along a line", func(ctx context.Context, in *measuring) (bench.Pictured, error) {
		return s.work.Photographs.Measure(ctx, in.ID, in.Body)
	})
	serve(s, http.MethodPost, "/api/v1/photographs/{id}/measures/{measure_id}/taking-back", "Take a measure on a photograph back with its reason", func(ctx context.Context, in *takingMeasureBack) (bench.Pictured, error) {
		return s.work.Photographs.TakeMeasureBack(ctx, in.ID, in.MeasureID, in.Body.Why)
	})
	serve(s, http.MethodGet, "/api/v1/side-by-side", "Photographs laid beside each other, with what differs", func(ctx context.Context, in *besideQuery) (photographs.SideBySide, error) {
		return s.work.Photographs.SideBySide(ctx, in.IDs)
	})
	serveFile(s, "/api/v1/picture-sheet.png", "A picture sheet with labels burned in, or with codes alone", func(ctx context.Context, in *sheetQuery) (string, string, []byte, error) {
		data, err := s.work.Photographs.Sheet(ctx, in.request())
		return "picture-sheet.png", "image/png", data, err
	})
	serve(s, http.MethodGet, "/api/v1/picture-sheet/key", "What stands behind the codes of a blind picture sheet", func(ctx context.Context, in *sheetQuery) ([]photographs.KeyRow, error) {
		return s.work.Photographs.Key(ctx, in.request())
	})
}
