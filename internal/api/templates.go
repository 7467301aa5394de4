package api

import (
	"context"
	"net/http"

	"ojime/internal/bench"
	"ojime/internal/work/kit"
	"ojime/internal/work/templates"
)

type retiring struct {
	Version int64 `json:"version"`
}

type expectedQuery struct {
	MachineID string `query:"machine_id" required:"true"`
	AtMS      int64  `query:"at_ms"`
}

type settingsDraftQuery struct {
	MachineID string  `query:"machine_id" required:"true"`
	ResinID   string  `query:"resin_id"`
	LayerUM   float64 `query:"layer_um" minimum:"0"`
}

type templating struct {
	Version  int64 `json:"version"`
	Template bool  `json:"template" doc:"whether new settings of the machine begin with these"`
}

type pieceKind struct {
	Version int64  `json:"version"`
	Kind    string `json:"kind" maxLength:"60" doc:"what sort of model it is, such as figure or vehicle; empty for none"`
}

// templates are what the next entry begins with.
func (s *server) templates() {
	serve(s, http.MethodGet, "/api/v1/rooms", "Rooms with the machines that stand in them", func(ctx context.Context, _ *nothing) (templates.Rooms, error) {
		return s.work.Templates.Rooms(ctx)
	})
	serve(s, http.MethodPost, "/api/v1/rooms", "Enter a room and what it is usually like", func(ctx context.Context, in *created[bench.Workroom]) (templates.Rooms, error) {
		in.Body.ID = ""
		return s.work.Templates.SaveRoom(ctx, in.Body)
	})
	serve(s, http.MethodPut, "/api/v1/rooms/{id}", "Say what a room is usually like now", func(ctx context.Context, in *changed[bench.Workroom]) (templates.Rooms, error) {
		in.Body.ID = in.ID
		return s.work.Templates.SaveRoom(ctx, in.Body)
	})
	serve(s, http.MethodPost, "/api/v1/rooms/{id}/retirement", "Take a room out of use", func(ctx context.Context, in *changed[retiring]) (templates.Rooms, error) {
		return s.work.Templates.RetireRoom(ctx, in.ID, in.Body.Version)
	})
	serve(s, http.MethodPost, "/api/v1/machines/{id}/room", "Say in which room a machine stands", func(ctx context.Context, in *changed[templates.Placing]) (templates.Rooms, error) {
		return s.work.Templates.Place(ctx, in.ID, in.Body)
	})
	serve(s, http.MethodGet, "/api/v1/room-expected", "What a print is expected to be made in", func(ctx context.Context, in *expectedQuery) (templates.Expectation, error) {
		return s.work.Templates.Expected(ctx, in.MachineID, in.AtMS)
	})
	serve(s, http.MethodGet, "/api/v1/piece-kinds", "Kinds of pieces with what is looked at on each of them", func(ctx context.Context, _ *nothing) ([]templates.KindCard, error) {
		return s.work.Templates.Kinds(ctx)
	})
	serve(s, http.MethodPut, "/api/v1/piece-kinds", "Say what is looked at on every piece of a kind", func(ctx context.Context, in *created[bench.Checklist]) ([]templates.KindCard, error) {
		return s.work.Templates.SaveChecklist(ctx, in.Body)
	})
	serve(s, http.MethodPut, "/api/v1/pieces/{id}/kind", "Say what sort of model a piece is", func(ctx context.Context, in *changed[pieceKind]) (kit.PieceCard, error) {
		return s.work.Kit.SaveKind(ctx, in.ID, in.Body.Version, in.Body.Kind)
	})
	serve(s, http.MethodGet, "/api/v1/settings-draft", "What new settings of a machine begin with", func(ctx context.Context, in *settingsDraftQuery) (templates.SettingsDraft, error) {
		return s.work.Templates.SettingsDraft(ctx, templates.DraftRequest{MachineID: in.MachineID, ResinID: in.ResinID, LayerUM: in.LayerUM})
	})
	serve(s, http.MethodPost, "/api/v1/profiles/{id}/template", "Make settings what new ones of their machine begin with, or let that be", func(ctx context.Context, in *changed[templating]) (bench.Profile, error) {
		return s.work.Templates.MakeTemplate(ctx, in.ID, in.Body.Version, in.Body.Template)
	})
}
