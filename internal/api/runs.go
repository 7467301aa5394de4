package api

import (
	"context"
	"net/http"

	"ojime/internal/bench"
	"ojime/internal/work/diagnosis"
	"ojime/internal/work/inspect"
	"ojime/internal/work/planning"
	"ojime/internal/work/printing"
)

type draftQuery struct {
	MachineID string `query:"machine_id" required:"true"`
}

type estimateQuery struct {
	ProfileID string  `query:"profile_id" required:"true"`
	PieceID   string  `query:"piece_id" required:"true"`
	Copies    int64   `query:"copies" minimum:"1" default:"1"`
	ScalePct  float64 `query:"scale_pct" exclusiveMinimum:"0" default:"100"`
}

type runsQuery struct {
	MachineID string `query:"machine_id"`
	ResinID   string `query:"resin_id"`
	PieceID   string `query:"piece_id"`
	Shape     string `query:"shape" enum:",whole,nicked,split,ring,open"`
	Code      string `query:"code"`
	Skip      int64  `query:"skip" minimum:"0"`
	Most      int64  `query:"most" minimum:"1" maximum:"200" default:"100"`
}

type symptomQuery struct {
	ID      string `path:"id"`
	Symptom string `query:"symptom" required:"true"`
}

type outcomesBody struct {
	ID   string `path:"id"`
	Body []bench.Specimen
}

type readingsBody struct {
	ID   string `path:"id"`
	Body struct {
		Readings  []bench.Reading `json:"readings" minItems:"1"`
		Confirmed bool            `json:"confirmed" doc:"true keeps values that were questioned"`
	}
}

// happening is an event of a print; Confirmed keeps a time that was questioned.
type happening struct {
	bench.RunEvent
	Confirmed bool `json:"confirmed" required:"false" doc:"true keeps values that were questioned"`
}

type skipBody struct {
	Reason string `json:"reason" minLength:"1"`
}

type stageBack struct {
	ID      string `path:"id"`
	StageID string `path:"stage_id"`
}

type takeBackBody struct {
	ID        string `path:"id"`
	ReadingID string `path:"reading_id"`
	Body      struct {
		Why string `json:"why" minLength:"1"`
	}
}

func (s *server) runs() {
	serve(s, http.MethodGet, "/api/v1/runs", "A page of runs, the newest first", func(ctx context.Context, in *runsQuery) (printing.RunLines, error) {
		return s.work.Printing.Runs(ctx, printing.RunFilter{MachineID: in.MachineID, ResinID: in.ResinID, PieceID: in.PieceID, Shape: in.Shape, Code: in.Code, Skip: in.Skip, Most: in.Most})
	})
	serve(s, http.MethodGet, "/api/v1/run-draft", "A next run with conditions carried over", func(ctx context.Context, in *draftQuery) (printing.RunDraft, error) {
		return s.work.Printing.DraftRun(ctx, in.MachineID)
	})
	serve(s, http.MethodGet, "/api/v1/run-estimate", "Our time for a piece with a profile", func(ctx context.Context, in *estimateQuery) (planning.Estimate, error) {
		return s.work.Planning.EstimateRun(ctx, in.ProfileID, in.PieceID, in.Copies, in.ScalePct)
	})
	serve(s, http.MethodPost, "/api/v1/runs", "Record a print", func(ctx context.Context, in *created[printing.Recording]) (printing.RunSheet, error) {
		in.Body.ID = ""
		return s.work.Printing.RecordRun(ctx, in.Body)
	})
	serve(s, http.MethodPatch, "/api/v1/runs/{id}", "Amend what is known of a print", func(ctx context.Context, in *amended[runChange]) (printing.RunSheet, error) {
		return s.work.Printing.AmendRun(ctx, in.ID, in.Body.Version, in.Body.Change.raw, in.Body.Why, in.Body.Confirmed)
	})
	serve(s, http.MethodPost, "/api/v1/runs/{id}/readings/{reading_id}/taking-back", "Take a reading back with its reason", func(ctx context.Context, in *takeBackBody) (printing.RunSheet, error) {
		return s.work.Inspect.TakeBack(ctx, in.ID, in.ReadingID, in.Body.Why)
	})
	serve(s, http.MethodPost, "/api/v1/runs/{id}/stages", "A stage that copies came to, with the minutes of rework", func(ctx context.Context, in *changed[inspect.Stage]) (printing.RunSheet, error) {
		return s.work.Inspect.Reach(ctx, in.ID, in.Body)
	})
	serve(s, http.MethodPost, "/api/v1/runs/{id}/stages/{stage_id}/taking-back", "Take a stage of a copy back", func(ctx context.Context, in *stageBack) (printing.RunSheet, error) {
		return s.work.Inspect.TakeStageBack(ctx, in.ID, in.StageID)
	})
	serve(s, http.MethodPost, "/api/v1/runs/{id}/preflight/skip", "Skip what is open before a print, with one reason", func(ctx context.Context, in *changed[skipBody]) (printing.LiveRun, error) {
		return s.work.Printing.SkipOpen(ctx, in.ID, in.Body.Reason)
	})
	serve(s, http.MethodGet, "/api/v1/runs/{id}", "One run with all that hangs on it", func(ctx context.Context, in *byIDPath) (printing.RunSheet, error) {
		return s.work.Printing.RunSheet(ctx, in.ID)
	})
	serve(s, http.MethodPost, "/api/v1/run-preparations", "Prepare a print: specimens and codes before the print", func(ctx context.Context, in *created[printing.Preparation]) (printing.RunSheet, error) {
		return s.work.Printing.Prepare(ctx, in.Body)
	})
	serve(s, http.MethodGet, "/api/v1/runs/{id}/live", "Where a run stands now", func(ctx context.Context, in *byIDPath) (printing.LiveRun, error) {
		return s.work.Printing.Live(ctx, in.ID)
	})
	serve(s, http.MethodPost, "/api/v1/runs/{id}/events", "Say what happens to a print", func(ctx context.Context, in *changed[happening]) (printing.LiveRun, error) {
		return s.work.Printing.Happen(ctx, in.ID, in.Body.RunEvent, in.Body.Confirmed)
	})
	serve(s, http.MethodPost, "/api/v1/runs/{id}/preflight", "Tick or skip an item before a print", func(ctx context.Context, in *changed[bench.Preflight]) (printing.LiveRun, error) {
		return s.work.Printing.Answer(ctx, in.ID, in.Body)
	})
	serve(s, http.MethodGet, "/api/v1/runs/{id}/diagnosis", "Likely causes of a symptom, from the conditions on record", func(ctx context.Context, in *symptomQuery) (diagnosis.Diagnosis, error) {
		return s.work.Diagnosis.Diagnose(ctx, in.ID, in.Symptom)
	})
	serve(s, http.MethodPost, "/api/v1/runs/{id}/remedies", "Say what was tried, or whether it came back", func(ctx context.Context, in *changed[bench.Remedy]) (diagnosis.Diagnosis, error) {
		return s.work.Diagnosis.Try(ctx, in.ID, in.Body)
	})
	serve(s, http.MethodPut, "/api/v1/runs/{id}/outcomes", "Say what became of the specimens", func(ctx context.Context, in *outcomesBody) (printing.RunSheet, error) {
		return s.work.Inspect.JudgeSpecimens(ctx, in.ID, in.Body)
	})
	serve(s, http.MethodPost, "/api/v1/runs/{id}/readings", "Append readings", func(ctx context.Context, in *readingsBody) (printing.RunSheet, error) {
		return s.work.Inspect.RecordReadings(ctx, in.ID, in.Body.Readings, in.Body.Confirmed)
	})
	serve(s, http.MethodGet, "/api/v1/symptoms", "What can be wrong with a specimen", func(context.Context, *nothing) ([]string, error) {
		return bench.Symptoms, nil
	})
}
