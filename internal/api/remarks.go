package api

import (
	"context"
	"net/http"

	"ojime/internal/bench"
	"ojime/internal/work/firstdays"
)

type remarkBack struct {
	ID       string `path:"id"`
	RemarkID string `path:"remark_id"`
	Body     struct {
		Why string `json:"why" minLength:"1"`
	}
}

// remarks are what annoys and pleases of machines.
func (s *server) remarks() {
	serve(s, http.MethodGet, "/api/v1/machines/{id}/remarks", "What annoys and pleases of a machine", func(ctx context.Context, in *byIDPath) (firstdays.Remarks, error) {
		return s.work.FirstDays.RemarksOn(ctx, in.ID)
	})
	serve(s, http.MethodPost, "/api/v1/machines/{id}/remarks", "Note what annoys or pleases of a machine", func(ctx context.Context, in *changed[bench.Remark]) (firstdays.Remarks, error) {
		return s.work.FirstDays.Remark(ctx, in.ID, in.Body)
	})
	serve(s, http.MethodPost, "/api/v1/machines/{id}/remarks/{remark_id}/taking-back", "Take a remark on a machine back", func(ctx context.Context, in *remarkBack) (firstdays.Remarks, error) {
		return s.work.FirstDays.TakeRemarkBack(ctx, in.ID, in.RemarkID, in.Body.Why)
	})
}
