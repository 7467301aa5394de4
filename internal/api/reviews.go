package api

import (
	"context"
	"errors"
	"fmt"
	"io"
	"log/slog"
	"net/http"
	"reflect"
	"strings"

	"github.com/danielgtaylor/huma/v2"

	"ojime/internal/bench"
	"ojime/internal/core/audit"
	"ojime/internal/work/compare"
	"ojime/internal/work/experiment"
	"ojime/internal/work/record"
	"ojime/internal/work/reviews"
)

type comparisonQuery struct {
	Side      []string `query:"side,explode" doc:"the runs of a side, with commas; once for each side, or all sides in one with semicolons"`
	Baseline  int      `query:"baseline" minimum:"-1" maximum:"11" default:"-1" doc:"the side against which the others are set, from 0; below, the one that the review declared, or the first"`
	Each      bool     `query:"each" doc:"each side against each other instead"`
	Question  string   `query:"question" enum:"detail,dimension,time,failure,finish,cost,strength" default:"detail"`
	UnderTest []string `query:"under_test,explode" doc:"factors that vary on purpose: once for each, or all in one with commas"`
	Policy    string   `query:"policy" enum:",same_settings,maker_default,each_calibrated"`
	PieceID   string   `query:"piece_id" doc:"narrows the comparison to the copies of one piece"`
	ReviewID  string   `query:"review_id" doc:"the review whose set-ups the sides are: it names them, and may have declared what decides"`
}

// sides are the runs of each side, however they were written.
func (q comparisonQuery) sides() (out [][]string) {
	for _, text := range q.Side {
		for _, side := range strings.Split(text, ";") {
			out = append(out, strings.FieldsFunc(side, func(r rune) bool { return r == ',' }))
		}
	}
	return out
}

// factors are what is under test, however it was written.
func (q comparisonQuery) factors() (out []string) {
	for _, text := range q.UnderTest {
		out = append(out, list(text)...)
	}
	return out
}

// request is what is asked of the comparison.
func (q comparisonQuery) request() compare.ComparisonRequest {
	return compare.ComparisonRequest{Sides: q.sides(), Baseline: q.Baseline, Each: q.Each, Question: q.Question, UnderTest: q.factors(), Policy: q.Policy, PieceID: q.PieceID, ReviewID: q.ReviewID}
}

// mostFilled is up to how many copies the plot of a comparison goes.
const mostFilled = 12

type setUpsQuery struct {
	ID        string `path:"id"`
	AllPieces bool   `query:"all_pieces" doc:"the prints of all pieces together"`
}

type tableQuery struct {
	ID    string `path:"id"`
	Table string `path:"table" enum:"settings,runs,specimens,readings,ratings,photographs,stress,forms,machine-ratings,sliced-files,room-readings,remarks,ballots,findings,claims"`
}

type leaving struct {
	ID   string `path:"id"`
	Body bench.LeftOut
}

type planBody struct {
	ID   string `path:"id"`
	Body experiment.PlanRequest
}

type declaring struct {
	ID   string `path:"id"`
	Body struct {
		Measure string          `json:"measure" doc:"empty: none decides"`
		Against *bench.SetUpRef `json:"against" required:"false"`
		Of      *bench.SetUpRef `json:"of" required:"false" doc:"none: all set-ups"`
	}
}

type namingSetUps struct {
	ID   string `path:"id"`
	Body struct {
		Names bench.SetUpNames `json:"names"`
	}
}

type withdrawing struct {
	ID   string `path:"id"`
	Body struct {
		Why string `json:"why" minLength:"1"`
	}
}

type takingBack struct {
	ID    string `path:"id"`
	RunID string `path:"run_id"`
}

func (s *server) reviews() {
	serve(s, http.MethodGet, "/api/v1/factors", "Factors that may be under test", func(context.Context, *nothing) ([]string, error) {
		return audit.Factors(), nil
	})
	serve(s, http.MethodGet, "/api/v1/reviews/{id}/set-ups", "Set-ups of a review with their runs, piece by piece or over all pieces", func(ctx context.Context, in *setUpsQuery) ([]reviews.SetUp, error) {
		setups, err := s.work.Reviews.SetUps(ctx, in.ID)
		if in.AllPieces {
			setups = reviews.AcrossPieces(setups)
		}
		return setups, err
	})
	serve(s, http.MethodGet, "/api/v1/reviews/{id}/matrix", "What a review put to the test, and what that can tell", func(ctx context.Context, in *byIDPath) (experiment.Matrix, error) {
		return s.work.Experiment.Matrix(ctx, in.ID)
	})
	serve(s, http.MethodGet, "/api/v1/reviews/{id}/deciding", "What a review may declare to decide, and what it did", func(ctx context.Context, in *byIDPath) (reviews.Decidable, error) {
		return s.work.Reviews.Decidable(ctx, in.ID)
	})
	serve(s, http.MethodPost, "/api/v1/reviews/{id}/deciding", "Declare which measure decides, or that none does", func(ctx context.Context, in *declaring) (bench.Review, error) {
		return s.work.Reviews.Declare(ctx, in.ID, bench.Declaration{Measure: in.Body.Measure, Against: in.Body.Against, Of: in.Body.Of})
	})
	serve(s, http.MethodPut, "/api/v1/reviews/{id}/set-ups", "Names and order of a review's set-ups", func(ctx context.Context, in *namingSetUps) (bench.Review, error) {
		return s.work.Reviews.NameSetUps(ctx, in.ID, in.Body.Names)
	})
	serve(s, http.MethodGet, "/api/v1/reviews/{id}/plan", "What is planned for a review, in its drawn order", func(ctx context.Context, in *byIDPath) (experiment.PlanSheet, error) {
		return s.work.Experiment.Plan(ctx, in.ID)
	})
	ask(s, "/api/v1/plan-drafts/{id}", "Draw the prints that a review lacks, saving nothing", func(ctx context.Context, in *planBody) (experiment.PlanDraft, error) {
		return s.work.Experiment.DraftPlan(ctx, in.ID, in.Body)
	})
	serve(s, http.MethodPost, "/api/v1/reviews/{id}/plan", "Keep a plan as it was drawn: settings, plates and their order", func(ctx context.Context, in *planBody) (experiment.PlanSheet, error) {
		return s.work.Experiment.KeepPlan(ctx, in.ID, in.Body)
	})
	serve(s, http.MethodPost, "/api/v1/reviews/{id}/plan/withdraw", "Withdraw what is planned and not printed yet", func(ctx context.Context, in *withdrawing) (experiment.PlanSheet, error) {
		return s.work.Experiment.WithdrawPlan(ctx, in.ID, in.Body.Why)
	})
	serve(s, http.MethodGet, "/api/v1/reviews/{id}/left-out", "Prints that a review leaves out, and what that did", func(ctx context.Context, in *byIDPath) ([]reviews.LeftOutPrint, error) {
		return s.work.Reviews.LeftOut(ctx, in.ID)
	})
	serve(s, http.MethodPost, "/api/v1/reviews/{id}/left-out", "Leave a print out, for a reason", func(ctx context.Context, in *leaving) (bench.Review, error) {
		return s.work.Reviews.LeaveOut(ctx, in.ID, in.Body)
	})
	serve(s, http.MethodPost, "/api/v1/reviews/{id}/left-out/{run_id}/take-back", "Let a print count again", func(ctx context.Context, in *takingBack) (bench.Review, error) {
		return s.work.Reviews.TakeBack(ctx, in.ID, in.RunID)
	})
	serve(s, http.MethodGet, "/api/v1/comparison", "Audit and compare groups of runs", func(ctx context.Context, in *comparisonQuery) (compare.Comparison, error) {
		return s.work.Reviews.Compare(ctx, in.request())
	})
	serve(s, http.MethodGet, "/api/v1/comparison/fill", "The time of each piece compared on plates that were not printed", func(ctx context.Context, in *comparisonQuery) ([]reviews.Filled, error) {
		return s.work.Reviews.Filled(ctx, in.request(), mostFilled)
	})
	serveFile(s, "/api/v1/reviews/{id}/write-up.md", "The review as Markdown", func(ctx context.Context, in *byIDPath) (string, string, []byte, error) {
		data, err := s.work.Publish.WriteUp(ctx, in.ID)
		return "review.md", "text/markdown; charset=utf-8", data, err
	})
	serveFile(s, "/api/v1/reviews/{id}/tables/{table}", "A table of the review as CSV", func(ctx context.Context, in *tableQuery) (string, string, []byte, error) {
		data, err := s.work.Dataset.Table(ctx, in.ID, in.Table)
		return in.Table + ".csv", "text/csv; charset=utf-8", data, err
	})
}

// importBody leaves the body to be read as it comes: a record may be large.
type importBody struct{ from io.Reader }

// Resolve takes hold of the body.
func (b *importBody) Resolve(ctx huma.Context) []error {
	b.from = limited{ctx.BodyReader()}
	return nil
}

// limited says in the words of the task that a body is too large.
type limited struct{ from io.Reader }

func (l limited) Read(p []byte) (int, error) {
	n, err := l.from.Read(p)
	var tooLarge *http.MaxBytesError
	if errors.As(err, &tooLarge) {
		err = record.ErrTooLarge
	}
	return n, err
}

// streamed marks operations whose body is read, and checked, entry by entry.
const streamed = "streamed"

func (s *server) record() {
	schema := s.api.OpenAPI().Components.Schemas.Schema(reflect.TypeFor[record.Record](), true, "")
	content := map[string]*huma.MediaType{"application/json": {Schema: schema}}
	huma.Register(s.api, huma.Operation{OperationID: "get-record", Method: http.MethodGet, Path: "/api/v1/record", Summary: "The whole record", Tags: []string{"record"},
		Responses: map[string]*huma.Response{"200": {Description: "The record", Content: content}}}, func(ctx context.Context, _ *nothing) (*huma.StreamResponse, error) {
		return &huma.StreamResponse{Body: func(out huma.Context) {
			out.SetHeader("Content-Type", "application/json")
			if err := s.work.Record.Export(ctx, out.BodyWriter()); err != nil {
				slog.Error("an export broke off", "cause", err)
				panic(http.ErrAbortHandler) // a file that is cut off must not look whole
			}
		}}, nil
	})
	serveOp(s, huma.Operation{OperationID: "post-record", Method: http.MethodPost, Path: "/api/v1/record", Summary: "Fill an empty record from an exported one",
		Tags: []string{"record"}, MaxBodyBytes: importBytes, Metadata: map[string]any{streamed: true},
	}, func(ctx context.Context, in *importBody) (record.Imported, error) {
		return s.work.Record.Import(ctx, in.from)
	})
	// Said in the document alone: otherwise the body would be read before it is asked for.
	s.api.OpenAPI().Paths["/api/v1/record"].Post.RequestBody = &huma.RequestBody{Required: true, Content: content}
}

// fileReply is a file to keep.
type fileReply struct {
	ContentType string `header:"Content-Type"`
	Disposition string `header:"Content-Disposition"`
	Body        []byte
}

// serveFile registers a task that gives a name, a media type and bytes.
func serveFile[In any](s *server, route, summary string, f func(context.Context, *In) (string, string, []byte, error)) {
	op := huma.Operation{OperationID: "file" + operationID(route), Method: http.MethodGet, Path: route, Summary: summary, Tags: []string{"files"}}
	huma.Register(s.api, op, func(ctx context.Context, in *In) (*fileReply, error) {
		name, kind, data, err := f(ctx, in)
		if err != nil {
			return nil, problem(err)
		}
		return &fileReply{ContentType: kind, Disposition: fmt.Sprintf("attachment; filename=%q", name), Body: data}, nil
	})
}
