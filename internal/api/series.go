package api

import (
	"context"
	"net/http"

	"ojime/internal/bench"
	"ojime/internal/work/dialin"
	"ojime/internal/work/kit"
)

type cellBody struct {
	ID     string `path:"id"`
	Number int64  `path:"number"`
	Body   cellJudged
}

// cellJudged is what can be judged on a cell; null is "not judged".
type cellJudged struct {
	Survived      *bool    `json:"survived" required:"false"`
	SmallestPinMM *float64 `json:"smallest_pin_mm" required:"false"`
	SmallestGapMM *float64 `json:"smallest_gap_mm" required:"false"`
	OuterErrorMM  *float64 `json:"outer_error_mm" required:"false"`
	InnerErrorMM  *float64 `json:"inner_error_mm" required:"false"`
	FeaturesOK    *int64   `json:"features_ok" required:"false"`
	FeaturesTotal *int64   `json:"features_total" required:"false"`
	OuterMM       *float64 `json:"outer_mm" required:"false"`
	InnerMM       *float64 `json:"inner_mm" required:"false"`
}

type acceptBody struct {
	ID   string `path:"id"`
	Body struct {
		ExposureS    float64 `json:"exposure_s" exclusiveMinimum:"0"`
		Antialiasing string  `json:"antialiasing"`
	}
}

type carryQuery struct {
	ProfileID string  `query:"profile_id" required:"true"`
	MachineID string  `query:"machine_id" required:"true"`
	ResinID   string  `query:"resin_id" doc:"where it is another than that of the settings"`
	LayerUM   float64 `query:"layer_um" minimum:"0" doc:"what is wanted; 0: that of the settings"`
	Cells     int64   `query:"cells" minimum:"2" default:"6"`
}

type firstCell struct {
	Version int64  `json:"version"`
	Lay     string `json:"lay" enum:"front_left,front_right,back_left,back_right"`
	Why     string `json:"why"`
}

type profileName struct {
	Version int64  `json:"version"`
	Name    string `json:"name"`
	Note    string `json:"note"`
}

type profileArchiving struct {
	Version int64  `json:"version"`
	Why     string `json:"why"`
}

func (s *server) series() {
	serve(s, http.MethodGet, "/api/v1/carried-exposure", "Carry an exposure over from another machine", func(ctx context.Context, in *carryQuery) (dialin.CarriedExposure, error) {
		ask := dialin.Carrying{ProfileID: in.ProfileID, MachineID: in.MachineID, ResinID: in.ResinID, Cells: in.Cells}
		if in.LayerUM > 0 {
			ask.LayerUM = &in.LayerUM
		}
		return s.work.DialIn.CarryExposure(ctx, ask)
	})
	serve(s, http.MethodGet, "/api/v1/series", "Exposure series, the newest first", func(ctx context.Context, _ *nothing) ([]dialin.SeriesSheet, error) {
		return s.work.DialIn.AllSeries(ctx)
	})
	serve(s, http.MethodPost, "/api/v1/series", "Plan a series", func(ctx context.Context, in *created[dialin.SeriesPlan]) (dialin.SeriesSheet, error) {
		return s.work.DialIn.PlanSeries(ctx, in.Body)
	})
	serve(s, http.MethodGet, "/api/v1/series/{id}", "A series with what the schools say", func(ctx context.Context, in *byIDPath) (dialin.SeriesSheet, error) {
		return s.work.DialIn.SeriesSheet(ctx, in.ID)
	})
	serve(s, http.MethodPost, "/api/v1/series/{id}/cells/{number}/readings", "Record what was judged on a cell", func(ctx context.Context, in *cellBody) (dialin.SeriesSheet, error) {
		b := in.Body
		return s.work.DialIn.RecordCell(ctx, in.ID, in.Number, bench.CellReading{Survived: b.Survived, SmallestPinMM: b.SmallestPinMM, SmallestGapMM: b.SmallestGapMM,
			OuterErrorMM: b.OuterErrorMM, InnerErrorMM: b.InnerErrorMM, FeaturesOK: b.FeaturesOK, FeaturesTotal: b.FeaturesTotal},
			dialin.CellSizes{OuterMM: b.OuterMM, InnerMM: b.InnerMM})
	})
	serve(s, http.MethodPut, "/api/v1/series/{id}/order", "Say in which corner of the plate the first cell lay", func(ctx context.Context, in *changed[firstCell]) (dialin.SeriesSheet, error) {
		return s.work.DialIn.TurnCells(ctx, in.ID, in.Body.Version, in.Body.Lay, in.Body.Why)
	})
	serve(s, http.MethodPost, "/api/v1/series/{id}/accept", "Accept an exposure as the calibrated profile", func(ctx context.Context, in *acceptBody) (dialin.SeriesSheet, error) {
		return s.work.DialIn.Accept(ctx, in.ID, in.Body.ExposureS, in.Body.Antialiasing)
	})
	serve(s, http.MethodGet, "/api/v1/profiles", "Settings, with what tells each from its neighbours", func(ctx context.Context, _ *nothing) ([]kit.SettingsCard, error) {
		return s.work.Kit.SettingsCards(ctx)
	})
	serve(s, http.MethodPatch, "/api/v1/profiles/{id}", "Name settings; what they set stays as it is", func(ctx context.Context, in *changed[profileName]) (bench.Profile, error) {
		return s.work.Kit.NameProfile(ctx, in.ID, in.Body.Version, in.Body.Name, in.Body.Note)
	})
	serve(s, http.MethodPost, "/api/v1/profiles/{id}/archiving", "Withdraw settings with a reason, or bring them back without one", func(ctx context.Context, in *changed[profileArchiving]) (bench.Profile, error) {
		return s.work.Kit.ArchiveProfile(ctx, in.ID, in.Body.Version, in.Body.Why)
	})
	serve(s, http.MethodPost, "/api/v1/profiles", "Keep settings that did not come from a series", func(ctx context.Context, in *created[bench.Profile]) (bench.Profile, error) {
		return s.work.Kit.AddProfile(ctx, in.Body)
	})
}
