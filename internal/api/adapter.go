package api

import (
	"context"
	"crypto/tls"
	"io"
	"mime/multipart"
	"net/http"
	"net/url"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/labstack/echo/v5"
)

// formMemory is how much of a multipart form is held in memory; files beyond
// it go to temporary files.
const formMemory = 1 << 20

// adapter carries Huma's operations on Echo v5, for which Huma ships none.
type adapter struct{ echo *echo.Echo }

func (a adapter) ServeHTTP(w http.ResponseWriter, r *http.Request) { a.echo.ServeHTTP(w, r) }

// Handle registers an operation, with {name} turned into Echo's :name.
func (a adapter) Handle(op *huma.Operation, handler func(huma.Context)) {
	path := strings.NewReplacer("{", ":", "}", "").Replace(op.Path)
	a.echo.Add(op.Method, path, func(c *echo.Context) error {
		if op.MaxBodyBytes > 0 { // forms too, whose parser knows no bound of its own
			r := c.Request()
			r.Body = http.MaxBytesReader(c.Response(), r.Body, op.MaxBodyBytes)
		}
		handler(&echoContext{op: op, echo: c})
		return nil
	})
}

// echoContext is huma.Context on Echo's.
type echoContext struct {
	op     *huma.Operation
	echo   *echo.Context
	status int
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

func (c *echoContext) SetReadDeadline(deadline time.Time) error {
	return http.NewResponseController(c.echo.Response()).SetReadDeadline(deadline)
}

func (c *echoContext) SetStatus(code int) {
	c.status = code
	c.echo.Response().WriteHeader(code)
}
