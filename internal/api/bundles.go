package api

import (
	"context"
	"fmt"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"ojime/internal/bench"
	"ojime/internal/work/bundle"
)

// bundleBytes is the largest bundle that is taken in.
const bundleBytes = 256 << 20

type bundleBody struct {
	RawBody []byte `contentType:"application/zip"`
}

// besideReply says where a record is served beside this one.
type besideReply struct {
	Address string `json:"address"`
}

// bundles are reviews with all that they were computed from, packed, and opened to be looked at.
func (s *server) bundles() {
	serveFile(s, "/api/v1/reviews/{id}/bundle.zip", "The review in all of its forms, with the record that it was computed from", func(ctx context.Context, in *byIDPath) (string, string, []byte, error) {
		data, err := s.work.Bundle.Make(ctx, in.ID)
		return "review.zip", "application/zip", data, err
	})
	serve(s, http.MethodGet, "/api/v1/bundles", "Bundles that are open", func(ctx context.Context, _ *nothing) ([]bundle.Opened, error) {
		return s.work.Bundle.List(ctx)
	})
	serveOp(s, huma.Operation{OperationID: "post-bundles", Method: http.MethodPost, Path: "/api/v1/bundles", Summary: "Open a bundle to be looked at, and compute its review anew", Tags: []string{"record"}, MaxBodyBytes: bundleBytes},
		func(ctx context.Context, in *bundleBody) (bundle.Opened, error) {
			var serving bundle.Serving
			if s.place.Beside != nil {
				serving = s.place.Beside.Bundle
			}
			return s.work.Bundle.Open(ctx, in.RawBody, serving)
		})
	serve(s, http.MethodPost, "/api/v1/bundles/{id}/closing", "Close a bundle and remove its files", func(ctx context.Context, in *byIDPath) ([]bundle.Opened, error) {
		if err := s.work.Bundle.Close(ctx, in.ID); err != nil {
			return nil, err
		}
		return s.work.Bundle.List(ctx)
	})
	serve(s, http.MethodPost, "/api/v1/demo", "Fill a record of its own with the demo, and say where it is", func(ctx context.Context, _ *nothing) (besideReply, error) {
		if s.place.Beside == nil || s.work.ReadOnly() {
			return besideReply{}, fmt.Errorf("start the demo with: ojime demo --data demo: %w", bench.ErrReadOnly)
		}
		address, err := s.place.Beside.Demo(ctx)
		return besideReply{address}, err
	})
}
