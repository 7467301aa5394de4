package api

import (
	"context"
	"net/http"

	"ojime/internal/bench"
	"ojime/internal/work/instruments"
)

type takingCheckBack struct {
	ID      string `path:"id"`
	CheckID string `path:"check_id"`
	Body    struct {
		Why string `json:"why" minLength:"1"`
	}
}

type checking struct {
	ID   string `path:"id"`
	Body bench.InstrumentCheck
}

type studying struct {
	ID   string `path:"id"`
	Body bench.GaugeStudy
}

type studyReading struct {
	ID   string `path:"id"`
	Body struct {
		ValueMM   float64 `json:"value_mm" exclusiveMinimum:"0"`
		Confirmed bool    `json:"confirmed" required:"false" doc:"kept though it is far from the others of its part"`
	}
}

type instrumentName struct {
	Version int64  `json:"version"`
	Name    string `json:"name"`
}

// instruments are what readings are taken with, their checks and repeatability studies.
func (s *server) instruments() {
	serve(s, http.MethodGet, "/api/v1/instrument-cards", "Instruments with their checks, what is in doubt, and their studies", func(ctx context.Context, _ *nothing) ([]instruments.InstrumentCard, error) {
		return s.work.Instruments.InstrumentCards(ctx)
	})
	serve(s, http.MethodGet, "/api/v1/instruments/{id}", "One instrument with its checks, what is in doubt, and its studies", func(ctx context.Context, in *byIDPath) (instruments.InstrumentCard, error) {
		return s.work.Instruments.Instrument(ctx, in.ID)
	})
	serve(s, http.MethodPatch, "/api/v1/instruments/{id}", "Give an instrument another name", func(ctx context.Context, in *changed[instrumentName]) (bench.Instrument, error) {
		return s.work.Instruments.RenameInstrument(ctx, in.ID, in.Body.Version, in.Body.Name)
	})
	serve(s, http.MethodPost, "/api/v1/instruments/{id}/checks", "Check an instrument against something known", func(ctx context.Context, in *checking) (instruments.InstrumentCard, error) {
		return s.work.Instruments.CheckInstrument(ctx, in.ID, in.Body)
	})
	serve(s, http.MethodPost, "/api/v1/instruments/{id}/checks/{check_id}/taking-back", "Take a check back with its reason", func(ctx context.Context, in *takingCheckBack) (instruments.InstrumentCard, error) {
		return s.work.Instruments.TakeCheckBack(ctx, in.ID, in.CheckID, in.Body.Why)
	})
	serve(s, http.MethodPost, "/api/v1/instruments/{id}/studies", "Begin a repeatability study, in an order that is drawn", func(ctx context.Context, in *studying) (instruments.Study, error) {
		return s.work.Instruments.BeginStudy(ctx, in.ID, in.Body)
	})
	serve(s, http.MethodGet, "/api/v1/gauge-studies/{id}", "A repeatability study, its order and what it shows", func(ctx context.Context, in *byIDPath) (instruments.Study, error) {
		return s.work.Instruments.StudyByID(ctx, in.ID)
	})
	serve(s, http.MethodPost, "/api/v1/gauge-studies/{id}/readings", "Take the reading that is next", func(ctx context.Context, in *studyReading) (instruments.Study, error) {
		return s.work.Instruments.ReadStudy(ctx, in.ID, in.Body.ValueMM, in.Body.Confirmed)
	})
	serve(s, http.MethodPost, "/api/v1/gauge-studies/{id}/undo", "Take the last reading back", func(ctx context.Context, in *byIDPath) (instruments.Study, error) {
		return s.work.Instruments.UndoReading(ctx, in.ID)
	})
}
