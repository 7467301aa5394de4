package api

import (
	"bytes"
	"context"
	"crypto/sha256"
	"crypto/tls"
	"errors"
	"fmt"
	"io"
	"mime/multipart"
	"net/http"
	"net/url"
	"strings"
	"time"
	"unicode/utf8"

	"github.com/danielgtaylor/huma/v2"
	"github.com/labstack/echo/v5"

	"ojime/internal/work/task"
)

// formMemory is how much of a multipart form is held in memory; files beyond
// it go to temporary files.
const formMemory = 1 << 20

// adapter carries Huma's operations on Echo v5, for which Huma ships none, and
// admits to them only what the document allows.
type adapter struct {
	echo     *echo.Echo
	registry huma.Registry
	// refused says why an operation is not open to whoever asks, before anything of the request is read.
	refused func(method, path string, r *http.Request) *huma.ErrorModel
}

func (a adapter) ServeHTTP(w http.ResponseWriter, r *http.Request) { a.echo.ServeHTTP(w, r) }

// Handle registers an operation, with {name} turned into Echo's :name.
func (a adapter) Handle(op *huma.Operation, handler func(huma.Context)) {
	path := strings.NewReplacer("{", ":", "}", "").Replace(op.Path)
	a.echo.Add(op.Method, path, func(c *echo.Context) error {
		r := c.Request()
		if refused := a.refused(op.Method, op.Path, r); refused != nil {
			return writeProblem(c, refused)
		}
		if op.MaxBodyBytes > 0 { // forms too, whose parser knows no bound of its own
			r.Body = http.MaxBytesReader(c.Response(), r.Body, op.MaxBodyBytes)
		}
		r.Body = &flowing{body: r.Body, connection: http.NewResponseController(c.Response())}
		defer func() {
			if form := c.Request().MultipartForm; form != nil {
				_ = form.RemoveAll() // temporary files; the next start clears what stays
			}
		}()
		if refused := a.admit(op, c); refused != nil {
			return writeProblem(c, refused)
		}
		handler(&echoContext{op: op, echo: c})
		return nil
	})
}

// admit reads and checks what a request brings; the body that was checked takes
// the place of the one that came.
func (a adapter) admit(op *huma.Operation, c *echo.Context) *huma.ErrorModel {
	r := c.Request()
	check := admission{registry: a.registry, boundsOnly: op.SkipValidateBody}
	check.parameters(op, c.Param, r.URL.Query())
	command := task.Command{ID: r.Header.Get(commandHeader), Asked: r.Method + " " + r.URL.Path, Says: saysOf(op)}
	if utf8.RuneCountInString(command.ID) > commandLength {
		return plainProblem(http.StatusBadRequest, fmt.Sprintf("%s may have at most %d characters.", commandHeader, commandLength))
	}
	var raw []byte
	if schema := bodySchema(op); schema != nil && len(check.problems) == 0 {
		var err error
		raw, err = io.ReadAll(r.Body)
		var tooLarge *http.MaxBytesError
		switch {
		case errors.As(err, &tooLarge):
			return plainProblem(http.StatusRequestEntityTooLarge, fmt.Sprintf("The request has more than the %d bytes that are taken at once; send less.", tooLarge.Limit))
		case err != nil:
			return plainProblem(http.StatusBadRequest, "The request broke off before it was read; send it again.")
		}
		r.Body = io.NopCloser(bytes.NewReader(check.body(schema, raw)))
	}
	if command.ID != "" && op.Method != http.MethodGet {
		command.Asked += fmt.Sprintf(" %x", sha256.Sum256(raw))
		c.SetRequest(r.WithContext(task.WithCommand(r.Context(), command)))
	}
	return check.refusal()
}

// commandHeader carries the id that a page gives to a command, so that one that
// is sent twice is done once; commandLength bounds it.
const (
	commandHeader = "Idempotency-Key"
	commandLength = 80
)

// saysOf is an operation in words, without what is said of it besides.
func saysOf(op *huma.Operation) string {
	if end := strings.IndexAny(op.Summary, ";:"); end > 0 {
		return op.Summary[:end]
	}
	return op.Summary
}

// pause is how long a request's body may stand still before it is given up.
const pause = 30 * time.Second

// flowing reads a body for as long as it flows, however slowly.
type flowing struct {
	body       io.ReadCloser
	connection *http.ResponseController
}

func (f *flowing) Read(p []byte) (int, error) {
	_ = f.connection.SetReadDeadline(time.Now().Add(pause)) // a recorder in a test has none
	n, err := f.body.Read(p)
	if err != nil { // nothing more is read: a long task is not cut off by its body's deadline
		_ = f.connection.SetReadDeadline(time.Time{})
	}
	return n, err
}

func (f *flowing) Close() error { return f.body.Close() }

// echoContext is huma.Context on Echo's.
type echoContext struct {
	op     *huma.Operation
	echo   *echo.Context
	status int
	// broken is the status of an answer that could not be encoded.
	broken int
}

func (c *echoContext) Operation() *huma.Operation      { return c.op }
func (c *echoContext) Context() context.Context        { return c.echo.Request().Context() }
func (c *echoContext) TLS() *tls.ConnectionState       { return c.echo.Request().TLS }
func (c *echoContext) Method() string                  { return c.echo.Request().Method }
func (c *echoContext) Host() string                    { return c.echo.Request().Host }
func (c *echoContext) RemoteAddr() string              { return c.echo.Request().RemoteAddr }
func (c *echoContext) URL() url.URL                    { return *c.echo.Request().URL }
func (c *echoContext) Param(name string) string        { return c.echo.Param(name) }
func (c *echoContext) Query(name string) string        { return c.echo.QueryParam(name) }
func (c *echoContext) Header(name string) string       { return c.echo.Request().Header.Get(name) }
func (c *echoContext) BodyReader() io.Reader           { return c.echo.Request().Body }
func (c *echoContext) BodyWriter() io.Writer           { return c.echo.Response() }
func (c *echoContext) Status() int                     { return c.status }
func (c *echoContext) AppendHeader(name, value string) { c.echo.Response().Header().Add(name, value) }
func (c *echoContext) SetHeader(name, value string)    { c.echo.Response().Header().Set(name, value) }

func (c *echoContext) Version() huma.ProtoVersion {
	r := c.echo.Request()
	return huma.ProtoVersion{Proto: r.Proto, ProtoMajor: r.ProtoMajor, ProtoMinor: r.ProtoMinor}
}

func (c *echoContext) EachHeader(visit func(name, value string)) {
	for name, values := range c.echo.Request().Header {
		for _, value := range values {
			visit(name, value)
		}
	}
}

func (c *echoContext) GetMultipartForm() (*multipart.Form, error) {
	err := c.echo.Request().ParseMultipartForm(formMemory)
	return c.echo.Request().MultipartForm, err
}

// SetReadDeadline leaves deadlines to flowing.
func (c *echoContext) SetReadDeadline(time.Time) error { return nil }

func (c *echoContext) SetStatus(code int) {
	if c.broken != 0 {
		code = c.broken
	}
	c.status = code
	c.echo.Response().WriteHeader(code)
}
