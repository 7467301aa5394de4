package api

import (
	"context"
	"fmt"
	"io"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"ojime/internal/bench"
	"ojime/internal/core/coupon"
	"ojime/internal/core/mesh"
	"ojime/internal/core/quantity"
	"ojime/internal/work/dialin"
	"ojime/internal/work/kit"
)

// meshForm is an upload of a mesh.
type meshForm struct {
	File huma.FormFile `form:"file" required:"true"`
}

// pieceForm is an upload of a mesh that names the piece.
type pieceForm struct {
	File       huma.FormFile `form:"file" required:"true"`
	Name       string        `form:"name" required:"true"`
	Revision   string        `form:"revision" required:"false"`
	Kind       string        `form:"kind" required:"false"`
	SupportPct float64       `form:"support_pct" required:"false" minimum:"0"`
}

// uploaded is a form with a file; Job names the progress to be asked after.
type uploaded[Form any] struct {
	Job     string `query:"job" maxLength:"40"`
	RawBody huma.MultipartFormFiles[Form]
}

// profileForm is an upload of a mesh to be sliced.
type profileForm struct {
	File    huma.FormFile `form:"file" required:"true"`
	LayerUM float64       `form:"layer_um" required:"true"`
}

// meshFile is an upload that is read when its turn has come.
func meshFile(file huma.FormFile) (kit.MeshFile, error) {
	if file.Size > meshBytes {
		return kit.MeshFile{}, quantity.Errorf("file", "has %d MiB; meshes up to %d MiB are read", file.Size>>20, meshBytes>>20)
	}
	return kit.MeshFile{Size: file.Size, Read: func() ([]byte, error) {
		defer func() { _ = file.Close() }() // it was only read
		data := make([]byte, file.Size)
		if _, err := io.ReadFull(file, data); err != nil {
			return nil, fmt.Errorf("read the upload: %w", err)
		}
		return data, nil
	}}, nil
}

// upload is an operation that takes a mesh.
func upload(id, route, summary string) huma.Operation {
	return huma.Operation{OperationID: id, Method: http.MethodPost, Path: route, Summary: summary, Tags: []string{"record"}, MaxBodyBytes: meshBytes + bodyBytes}
}

type featuresBody struct {
	ID   string `path:"id"`
	Body struct {
		Version  string          `json:"version" maxLength:"40" doc:"features_version as it was when these were read"`
		Features []bench.Feature `json:"features" maxItems:"300"`
	}
}

func (s *server) pieces() {
	serve(s, http.MethodGet, "/api/v1/pieces", "Pieces with what is measured on them", func(ctx context.Context, _ *nothing) ([]kit.PieceCard, error) {
		return s.work.Kit.Pieces(ctx)
	})
	inspect := upload("inspect-mesh", "/api/v1/meshes/inspect", "Judge a mesh and store nothing")
	inspect.Tags = []string{asks}
	serveOp(s, inspect, func(ctx context.Context, in *uploaded[meshForm]) (kit.MeshPreview, error) {
		file, err := meshFile(in.RawBody.Data().File)
		if err != nil {
			return kit.MeshPreview{}, err
		}
		report, done := s.jobs.begin(in.Job)
		defer done()
		return s.work.Kit.InspectMesh(ctx, file, report)
	})
	serveOp(s, upload("post-pieces", "/api/v1/pieces", "Import a piece"), func(ctx context.Context, in *uploaded[pieceForm]) (kit.PieceCard, error) {
		form := in.RawBody.Data()
		file, err := meshFile(form.File)
		if err != nil {
			return kit.PieceCard{}, err
		}
		report, done := s.jobs.begin(in.Job)
		defer done()
		return s.work.Kit.ImportPiece(ctx, kit.NewPiece{Name: form.Name, Revision: form.Revision, FileName: form.File.Filename, SupportPct: form.SupportPct, File: file, Kind: form.Kind}, report)
	})
	profile := upload("calc-mesh-profile", "/api/v1/calc/mesh/profile", "Calculate mesh/profile")
	profile.Tags = []string{asks}
	serveOp(s, profile, func(ctx context.Context, in *uploaded[profileForm]) (mesh.ProfileResult, error) {
		form := in.RawBody.Data()
		file, err := meshFile(form.File)
		if err != nil {
			return mesh.ProfileResult{}, err
		}
		report, done := s.jobs.begin(in.Job)
		defer done()
		return s.work.Kit.MeshProfile(ctx, file, form.LayerUM, report)
	})
	serve(s, http.MethodGet, "/api/v1/progress/{id}", "How far a long task has come", func(_ context.Context, in *byIDPath) (jobState, error) {
		return s.jobs.state(in.ID), nil
	})
	serve(s, http.MethodPut, "/api/v1/pieces/{id}/features", "Say what is measured on a piece", func(ctx context.Context, in *featuresBody) (kit.PieceCard, error) {
		return s.work.Kit.SaveFeatures(ctx, in.ID, in.Body.Version, in.Body.Features)
	})
	serve(s, http.MethodPut, "/api/v1/pieces/{id}/allowances", "Say what a piece needs beyond itself", func(ctx context.Context, in *allowancesBody) (kit.PieceCard, error) {
		report, done := s.jobs.begin(in.Job)
		defer done()
		return s.work.Kit.SaveAllowances(ctx, in.ID, in.Body, report)
	})
	serve(s, http.MethodGet, "/api/v1/pieces/{id}/hollow", "What hollowing would leave", func(ctx context.Context, in *hollowQuery) (mesh.HollowResult, error) {
		report, done := s.jobs.begin(in.Job)
		defer done()
		return s.work.Kit.HollowPiece(ctx, in.ID, in.WallMM, report)
	})
	serve(s, http.MethodGet, "/api/v1/pieces/{id}/slice", "One layer of a piece", func(ctx context.Context, in *sliceQuery) (kit.Slice, error) {
		return s.work.Kit.SliceOf(ctx, in.ID, in.LayerUM, in.Layer)
	})
	serveFile(s, "/api/v1/pieces/{id}/mesh", "The mesh as it was imported", func(ctx context.Context, in *byIDPath) (string, string, []byte, error) {
		name, data, err := s.work.Kit.MeshFile(ctx, in.ID)
		return name, "application/octet-stream", data, err
	})
	serveFile(s, "/api/v1/pieces/{id}/export", "The mesh as STL or 3MF, a coupon with a number", func(ctx context.Context, in *exportQuery) (string, string, []byte, error) {
		name, data, err := s.work.Kit.PieceMesh(ctx, in.ID, in.Format, in.Number)
		return name, "model/" + in.Format, data, err
	})
	serveFile(s, "/api/v1/pieces/{id}/view.stl", "The mesh, small enough to look at", func(ctx context.Context, in *byIDPath) (string, string, []byte, error) {
		data, err := s.work.Kit.ViewMesh(ctx, in.ID)
		return "view.stl", "model/stl", data, err
	})
	serveFile(s, "/api/v1/pieces/{id}/picture.png", "A still view", func(ctx context.Context, in *pictureQuery) (string, string, []byte, error) {
		data, err := s.work.Kit.PiecePicture(ctx, in.ID, in.Size, in.View)
		return "picture.png", "image/png", data, err
	})
	serve(s, http.MethodGet, "/api/v1/pieces/{id}/marks", "Where the sizes of a piece stand on its drawings", func(ctx context.Context, in *byIDPath) ([]kit.FeatureMark, error) {
		return s.work.Kit.FeatureMarks(ctx, in.ID)
	})
	s.coupons()
}

type allowancesBody struct {
	ID   string `path:"id"`
	Job  string `query:"job" maxLength:"40"`
	Body kit.Allowances
}

type hollowQuery struct {
	ID     string  `path:"id"`
	Job    string  `query:"job" maxLength:"40"`
	WallMM float64 `query:"wall_mm" required:"true"`
}

type sliceQuery struct {
	ID      string  `path:"id"`
	LayerUM float64 `query:"layer_um" required:"true"`
	Layer   int64   `query:"layer"`
}

type exportQuery struct {
	ID     string `path:"id"`
	Format string `query:"format" enum:"stl,3mf" default:"stl"`
	Number int64  `query:"number" minimum:"0"`
}

type pictureQuery struct {
	ID   string `path:"id"`
	Size int64  `query:"size" minimum:"40" maximum:"1200" default:"480"`
	View string `query:"view" enum:"still,plan,front" default:"still"`
}

func (s *server) coupons() {
	serveFile(s, "/api/v1/coupons/line-scale.svg", "The line scale that plaques are laid on, to be printed at 100 %", func(context.Context, *nothing) (string, string, []byte, error) {
		return "line-scale.svg", "image/svg+xml", []byte(coupon.LineScale()), nil
	})
	serve(s, http.MethodGet, "/api/v1/coupons/usual", "What a coupon usually carries", func(context.Context, *nothing) (coupon.Params, error) {
		return coupon.Defaults(), nil
	})
	ask(s, "/api/v1/coupons/preview", "Make a coupon and store nothing", func(ctx context.Context, in *created[coupon.Params]) (dialin.MadeCoupon, error) {
		return s.work.DialIn.PreviewCoupon(ctx, in.Body)
	})
	serve(s, http.MethodPost, "/api/v1/coupons", "Make a coupon a piece", func(ctx context.Context, in *created[couponBody]) (kit.PieceCard, error) {
		return s.work.DialIn.KeepCoupon(ctx, in.Body.Name, in.Body.Params)
	})
}

type couponBody struct {
	Name   string        `json:"name" minLength:"1"`
	Params coupon.Params `json:"params"`
}
