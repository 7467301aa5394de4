package api

import (
	"context"
	"fmt"
	"io"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"ojime/internal/bench"
	"ojime/internal/core/mesh"
	"ojime/internal/core/quantity"
	"ojime/internal/work"
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
	SupportPct float64       `form:"support_pct" required:"false" minimum:"0"`
}

type uploaded[Form any] struct {
	RawBody huma.MultipartFormFiles[Form]
}

func readMesh(file huma.FormFile) ([]byte, error) {
	defer func() { _ = file.Close() }() // it was only read
	if file.Size > meshBytes {
		return nil, quantity.Errorf("file", "has %d MiB; meshes up to %d MiB are read", file.Size>>20, meshBytes>>20)
	}
	data, err := io.ReadAll(file)
	if err != nil {
		return nil, fmt.Errorf("read the upload: %w", err)
	}
	return data, nil
}

// upload is an operation that takes a mesh.
func upload(id, route, summary string) huma.Operation {
	return huma.Operation{OperationID: id, Method: http.MethodPost, Path: route, Summary: summary, Tags: []string{"record"}, MaxBodyBytes: meshBytes + bodyBytes}
}

type featuresBody struct {
	ID   string `path:"id"`
	Body []bench.Feature
}

func (s *server) pieces() {
	serve(s, http.MethodGet, "/api/v1/pieces", "Pieces with what is measured on them", func(ctx context.Context, _ *nothing) ([]work.PieceCard, error) {
		return s.work.Pieces(ctx)
	})
	serveOp(s, upload("inspect-mesh", "/api/v1/meshes/inspect", "Measure a mesh and store nothing"), func(_ context.Context, in *uploaded[meshForm]) (mesh.Facts, error) {
		data, err := readMesh(in.RawBody.Data().File)
		if err != nil {
			return mesh.Facts{}, err
		}
		return s.work.InspectMesh(data)
	})
	serveOp(s, upload("post-pieces", "/api/v1/pieces", "Import a piece"), func(ctx context.Context, in *uploaded[pieceForm]) (work.PieceCard, error) {
		form := in.RawBody.Data()
		data, err := readMesh(form.File)
		if err != nil {
			return work.PieceCard{}, err
		}
		return s.work.ImportPiece(ctx, form.Name, form.Revision, form.File.Filename, form.SupportPct, data)
	})
	serve(s, http.MethodPut, "/api/v1/pieces/{id}/features", "Say what is measured on a piece", func(ctx context.Context, in *featuresBody) ([]bench.Feature, error) {
		return s.work.SaveFeatures(ctx, in.ID, in.Body)
	})
	serveFile(s, "/api/v1/pieces/{id}/mesh", "The mesh as it was imported", func(ctx context.Context, in *byIDPath) (string, string, []byte, error) {
		name, data, err := s.work.MeshFile(ctx, in.ID)
		return name, "model/stl", data, err
	})
}
