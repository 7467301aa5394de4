// Package api serves the record and the calculators over HTTP. A handler
// decodes, makes one call into work or the core, and encodes; no rule of the
// job is here.
package api

import (
	"context"
	"errors"
	"io/fs"
	"net/http"
	"path"
	"reflect"
	"slices"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/labstack/echo/v5"

	"ojime/internal/device"
	"ojime/internal/guide"
	"ojime/internal/work"
	"ojime/internal/work/task"
)

// Version is the API's, in its document.
const Version = "1.0.0"

// Bounds of request bodies.
const (
	bodyBytes   = 1 << 20
	meshBytes   = 256 << 20
	importBytes = 512 << 20
)

type server struct {
	api      huma.API
	work     *work.Work
	changes  *hub
	jobs     *jobs
	standIns *device.StandIns
	tokens   *throttle
	place    Place
}

// New makes the whole HTTP handler: API, change stream and front end. It answers
// under this machine's own names and under those of its place, behind the door there.
// Stand-ins of devices that are started through it end with ctx.
func New(ctx context.Context, w *work.Work, ui fs.FS, at Place) http.Handler {
	handler, _ := build(ctx, w, ui, at)
	return handler
}

func build(ctx context.Context, w *work.Work, ui fs.FS, at Place) (http.Handler, huma.API) {
	plainLocations()
	huma.DefaultArrayNullable = false
	e := echo.New()
	e.HTTPErrorHandler = writeEchoError
	config := huma.DefaultConfig("Ojime", Version)
	config.OpenAPIPath, config.DocsPath, config.SchemasPath = "/api/v1/openapi", "", ""
	config.CreateHooks = nil
	config.Components.Schemas = huma.NewMapRegistry("#/components/schemas/", schemaName)
	config.Transformers = []huma.Transformer{encode}
	config.Formats = map[string]huma.Format{"application/json": encoded, "json": encoded}
	s := &server{work: w, changes: newHub(), jobs: &jobs{}, tokens: newThrottle(time.Now), place: at}
	s.api = huma.NewAPI(config, adapter{e, config.Components.Schemas, s.refused})
	calculators(s.api)
	s.kit()
	s.pieces()
	s.plates()
	s.calendar()
	s.remarks()
	s.panels()
	s.findings()
	s.ledger()
	s.readers()
	s.money()
	s.texts()
	s.publications()
	s.parts()
	s.pages()
	s.cards()
	s.bundles()
	s.room()
	s.templates()
	s.series()
	s.runs()
	s.after()
	s.devices(ctx)
	s.reviews()
	s.references()
	s.ratings()
	s.paper()
	s.photographs()
	s.instruments()
	s.stresses()
	s.resinCards()
	s.living()
	s.shorthand()
	s.tables()
	s.surveys()
	s.light()
	s.sliced()
	s.undo()
	s.unit()
	s.levelling()
	s.software()
	s.repeats()
	s.forms()
	s.record()
	s.door()
	serve(s, http.MethodGet, "/api/v1/program", "What the program is, and whether the record can be changed", func(context.Context, *nothing) (program, error) {
		return program{Version: Version, ReadOnly: s.work.ReadOnly()}, nil
	})
	serve(s, http.MethodGet, "/api/v1/guide", "The help: the job, the views, and how each figure is computed", func(context.Context, *nothing) (guide.Guide, error) {
		return guide.Read()
	})
	admitNull(s.api)
	bound(s.api)
	e.GET("/healthz", func(c *echo.Context) error { return c.String(http.StatusOK, "ok") })
	e.GET("/api/v1/events", s.inside(s.stream))
	e.GET("/*", frontEnd(ui))
	return guard(s.known(e), at.Hosts), s.api
}

// program is what every page has to know.
type program struct {
	Version  string `json:"version"`
	ReadOnly bool   `json:"read_only"`
}

// reply is a JSON answer.
type reply[T any] struct{ Body T }

// byIDPath is a request that names one entry.
type byIDPath struct {
	ID string `path:"id"`
}

// nothing is a request without parameters.
type nothing struct{}

// serve registers one routine under a method and path.
func serve[In, Out any](s *server, method, route, summary string, routine func(context.Context, *In) (Out, error)) {
	op := huma.Operation{
		OperationID: strings.ToLower(method) + operationID(route),
		Method:      method, Path: route, Summary: summary, Tags: []string{"record"}, MaxBodyBytes: bodyBytes,
	}
	serveOp(s, op, routine)
}

func operationID(route string) string {
	return strings.NewReplacer("/api/v1", "", "/", "-", "{", "", "}", "").Replace(route)
}

// ask registers a routine that answers and changes nothing, though it is posted.
func ask[In, Out any](s *server, route, summary string, routine func(context.Context, *In) (Out, error)) {
	serveOp(s, huma.Operation{OperationID: "ask" + operationID(route), Method: http.MethodPost, Path: route, Summary: summary, Tags: []string{asks}, MaxBodyBytes: bodyBytes}, routine)
}

// asks is the tag of what changes nothing: no page has to look again.
const asks = "calc"

func serveOp[In, Out any](s *server, op huma.Operation, routine func(context.Context, *In) (Out, error)) {
	huma.Register(s.api, op, func(ctx context.Context, in *In) (*reply[Out], error) {
		out, err := routine(ctx, in)
		if err != nil {
			return nil, problem(err)
		}
		if op.Method != http.MethodGet && !slices.Contains(op.Tags, asks) {
			s.changes.tell(kindOf(op.Path), task.CommandOf(ctx).ID)
		}
		return &reply[Out]{emptyNotNull(out)}, nil
	})
}

// kindOf is the kind of entry that an address of the API is about.
func kindOf(route string) string {
	kind, _, _ := strings.Cut(strings.TrimPrefix(route, "/api/v1/"), "/")
	return kind
}

// emptyNotNull makes an empty list of a nil one, so that a list is never null.
func emptyNotNull[T any](v T) T {
	r := reflect.ValueOf(&v).Elem()
	if r.Kind() == reflect.Slice && r.IsNil() {
		r.Set(reflect.MakeSlice(r.Type(), 0, 0))
	}
	return v
}

// frontEnd serves the built files, and the page itself for every other path,
// since views have addresses of their own.
func frontEnd(ui fs.FS) echo.HandlerFunc {
	return func(c *echo.Context) error {
		name := strings.TrimPrefix(path.Clean(c.Request().URL.Path), "/")
		if strings.HasPrefix(name, "api/") {
			return echo.ErrNotFound
		}
		if info, err := fs.Stat(ui, name); name == "" || err != nil || info.IsDir() {
			name = "index.html"
		}
		if strings.HasPrefix(name, "assets/") { // named by content
			c.Response().Header().Set("Cache-Control", "public, max-age=31536000, immutable")
		} else {
			c.Response().Header().Set("Cache-Control", "no-cache")
		}
		if _, err := fs.Stat(ui, name); errors.Is(err, fs.ErrNotExist) {
			return c.String(http.StatusNotFound, "The front end is not built; run make build.")
		}
		http.ServeFileFS(c.Response(), c.Request(), ui, name)
		return nil
	}
}

func writeEchoError(c *echo.Context, err error) {
	status := http.StatusInternalServerError
	var coded interface{ StatusCode() int }
	if errors.As(err, &coded) {
		status = coded.StatusCode()
	}
	_ = c.JSON(status, map[string]any{"status": status, "title": http.StatusText(status)}) // the connection may be gone
}
