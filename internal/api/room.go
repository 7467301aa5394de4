package api

import (
	"context"
	"net/http"

	"ojime/internal/bench"
	"ojime/internal/work/printing"
)

type roomBack struct {
	ID        string `path:"id"`
	ReadingID string `path:"reading_id"`
	Body      struct {
		Why string `json:"why" minLength:"1"`
	}
}

// room is what prints were made in.
func (s *server) room() {
	serve(s, http.MethodPost, "/api/v1/runs/{id}/room-readings", "Note what the room of a print has", func(ctx context.Context, in *changed[bench.RoomReading]) (printing.RunSheet, error) {
		return s.work.Printing.ReadRoom(ctx, in.ID, in.Body)
	})
	serve(s, http.MethodPost, "/api/v1/runs/{id}/room-readings/{reading_id}/taking-back", "Take a reading of a room back", func(ctx context.Context, in *roomBack) (printing.RunSheet, error) {
		return s.work.Printing.TakeRoomBack(ctx, in.ReadingID, in.Body.Why)
	})
}
