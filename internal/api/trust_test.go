package api

import (
	"bytes"
	"context"
	"crypto/rand"
	"errors"
	"fmt"
	"io"
	"math"
	"mime/multipart"
	"net"
	"net/http"
	"net/http/httptest"
	"os"
	"strings"
	"testing"
	"testing/fstest"
	"time"

	"ojime/internal/bench"
	"ojime/internal/store"
	"ojime/internal/work"
	"ojime/internal/work/feed"
	"ojime/internal/work/record"
)

// A page of another site whose name was pointed here must not read the record.
func TestOnlyOwnNamesAreAnswered(t *testing.T) {
	b := serveEmpty(t)
	for host, want := range map[string]int{
		"127.0.0.1:8420": 200, "localhost": 200, "LOCALHOST:1": 200, "[::1]:8420": 200, "127.8.8.8": 200,
		"evil.example": 421, "evil.example:8420": 421, "127.0.0.1.evil.example": 421, "localhost.evil.example": 421, "10.0.0.4:8420": 421,
	} {
		req, err := http.NewRequest(http.MethodGet, b.URL+"/api/v1/record", http.NoBody)
		if err != nil {
			t.Fatal(err)
		}
		req.Host = host
		status, answer := b.do(req)
		if status != want || (want != 200 && answer["machines"] != nil) {
			t.Errorf("%s: status %d, want %d", host, status, want)
		}
	}
	if !ownName("bench.example:80", []string{"bench.example"}) || ownName("bench.example", nil) {
		t.Error("the host that it listens on is not its own")
	}
}

func TestAnswersCarryTheirHeaders(t *testing.T) {
	b := serveEmpty(t)
	res, err := b.Client().Get(b.URL + "/api/v1/machines")
	if err != nil {
		t.Fatal(err)
	}
	_ = res.Body.Close()
	for name, want := range map[string]string{"Cache-Control": "no-store", "Cross-Origin-Opener-Policy": "same-origin", "Cross-Origin-Resource-Policy": "same-origin"} {
		if got := res.Header.Get(name); got != want {
			t.Errorf("%s is %q, want %q", name, got, want)
		}
	}
	if res.Header.Get("Permissions-Policy") == "" {
		t.Error("no Permissions-Policy")
	}
}

// A panic, and an answer that cannot be encoded, become a problem with an id; the
// connection stays.
func TestWhatBreaksIsAProblemWithAnID(t *testing.T) {
	broken := guard(http.HandlerFunc(func(http.ResponseWriter, *http.Request) { panic("a secret of the program") }), nil)
	recorder := httptest.NewRecorder()
	req := httptest.NewRequest(http.MethodGet, "http://127.0.0.1/api/v1/machines", http.NoBody)
	broken.ServeHTTP(recorder, req)
	if recorder.Code != http.StatusInternalServerError || strings.Contains(recorder.Body.String(), "secret") || !strings.Contains(recorder.Body.String(), "The log names the cause under") {
		t.Errorf("a panic: %d %s", recorder.Code, recorder.Body)
	}
	s, err := store.Open(t.Context(), t.TempDir())
	if err != nil {
		t.Fatal(err)
	}
	defer func() { _ = s.Close() }()
	err = s.Write(t.Context(), func(tx *store.Tx) error {
		return errors.Join(tx.SaveInstrument(bench.Instrument{ID: "a", Code: "I1", Version: 1, Name: "Good", Kind: "caliper"}),
			tx.SaveInstrument(bench.Instrument{ID: "b", Code: "I2", Version: 1, Name: "Endless", Kind: "caliper", ResolutionMM: math.Inf(1)}))
	})
	if err != nil {
		t.Fatal(err)
	}
	server := httptest.NewServer(New(t.Context(), work.New(s, time.Now, rand.Reader), fstest.MapFS{}, Place{}))
	defer server.Close()
	res, err := server.Client().Get(server.URL + "/api/v1/instruments")
	if err != nil {
		t.Fatal(err)
	}
	defer func() { _ = res.Body.Close() }()
	text, err := io.ReadAll(res.Body)
	if err != nil || res.StatusCode != http.StatusOK || !strings.Contains(string(text), "Endless") || res.Header.Get(leftOutHeader) != "1" {
		t.Errorf("a list with an endless number: %d %s, left out %q (%v)", res.StatusCode, text, res.Header.Get(leftOutHeader), err)
	}
}

// A command that is sent twice under one id is done once.
func TestACommandIsTakenOnce(t *testing.T) {
	b := serveEmpty(t)
	send := func(id, body string) (int, map[string]any) {
		req, err := http.NewRequest(http.MethodPost, b.URL+"/api/v1/instruments", strings.NewReader(body))
		if err != nil {
			t.Fatal(err)
		}
		req.Header.Set("Content-Type", "application/json")
		req.Header.Set(commandHeader, id)
		return b.do(req)
	}
	_, first := send("one", caliper+`}`)
	status, again := send("one", caliper+`}`)
	if status != http.StatusOK || first["id"] != again["id"] {
		t.Errorf("%v, then %d %v", first, status, again)
	}
	if status, _ := send("one", strings.Replace(caliper, "Caliper", "Other", 1)+`}`); status != http.StatusConflict {
		t.Errorf("another command under the same id: %d", status)
	}
	if status, _ := send(strings.Repeat("x", 81), caliper+`}`); status != http.StatusBadRequest {
		t.Errorf("an endless id: %d", status)
	}
	if _, list := b.call(http.MethodGet, "/api/v1/instruments", ""); strings.Count(fmt.Sprint(list["raw"]), `"code"`) != 1 {
		t.Errorf("%v", list)
	}
}

// A body that comes in drops is read to its end.
func TestASlowBodyIsRead(t *testing.T) {
	b := serveEmpty(t)
	connection, err := net.Dial("tcp", strings.TrimPrefix(b.URL, "http://"))
	if err != nil {
		t.Fatal(err)
	}
	defer func() { _ = connection.Close() }()
	body := caliper + `}`
	if _, err := fmt.Fprintf(connection, "POST /api/v1/instruments HTTP/1.1\r\nHost: localhost\r\nContent-Type: application/json\r\nContent-Length: %d\r\nConnection: close\r\n\r\n", len(body)); err != nil {
		t.Fatal(err)
	}
	for i := range len(body) {
		if _, err := connection.Write([]byte{body[i]}); err != nil {
			t.Fatal(err)
		}
	}
	answer, err := io.ReadAll(connection)
	if err != nil || !strings.HasPrefix(string(answer), "HTTP/1.1 200") {
		t.Errorf("%.100s (%v)", answer, err)
	}
}

// deadlines notes what a body's reader asks of its connection.
type deadlines struct {
	http.ResponseWriter
	set []time.Time
}

func (d *deadlines) SetReadDeadline(t time.Time) error { d.set = append(d.set, t); return nil }

// Each part of a body moves the deadline on; its end lifts it.
func TestADeadlineMovesWithTheBody(t *testing.T) {
	d := &deadlines{ResponseWriter: httptest.NewRecorder()}
	f := &flowing{body: io.NopCloser(strings.NewReader("body")), connection: http.NewResponseController(d)}
	if _, err := io.ReadAll(f); err != nil {
		t.Fatal(err)
	}
	if n := len(d.set); n < 3 || d.set[0].IsZero() || !d.set[n-1].IsZero() {
		t.Errorf("deadlines %v", d.set)
	}
}

func TestWrongTokensAreThrottled(t *testing.T) {
	now := time.Unix(0, 0)
	th := newThrottle(func() time.Time { return now })
	wrong := func() error { return th.watch("a", func() error { return feed.ErrNoDevice }) }
	for range wrongTokens {
		if err := wrong(); !errors.Is(err, feed.ErrNoDevice) {
			t.Fatal(err)
		}
	}
	if err := wrong(); !errors.Is(err, errThrottled) {
		t.Errorf("after %d wrong ones: %v", wrongTokens, err)
	}
	if err := th.watch("b", func() error { return nil }); err != nil {
		t.Errorf("another place: %v", err)
	}
	now = now.Add(wrongWindow)
	if err := th.watch("a", func() error { return nil }); err != nil {
		t.Errorf("a minute later: %v", err)
	}
}

func TestStreamsHaveALimit(t *testing.T) {
	h := newHub()
	var leave func()
	for range mostListeners {
		var l *listener
		if l, leave = h.listen(); l == nil {
			t.Fatal("refused before the limit")
		}
	}
	if l, _ := h.listen(); l != nil {
		t.Error("one more was let in")
	}
	leave()
	if l, _ := h.listen(); l == nil {
		t.Error("a free place was refused")
	}
	h.tell("machines", "one")
	h.tell("runs", "two")
	for l := range h.listeners {
		if got := h.heard(l); fmt.Sprint(got.Of) == "[machines runs]" && got.By == "" {
			return
		}
	}
	t.Error("changes of two commands were not told together")
}

// An upload leaves no temporary file behind, and a form's numbers are held to their
// bounds like any other.
func TestUploadsLeaveNothingBehind(t *testing.T) {
	t.Setenv("TMPDIR", t.TempDir())
	b := serveEmpty(t)
	for supports, want := range map[string]int{"5": 200, "NaN": 422, "Inf": 422, "1e300": 422, "-1": 422} {
		var body bytes.Buffer
		form := multipart.NewWriter(&body)
		part, err := form.CreateFormFile("file", "wedge.stl")
		if err == nil {
			_, err = part.Write(append([]byte("solid x\nfacet\nouter loop\nvertex 0 0 0\nvertex 0 9 0\nvertex 9 0 0\nendloop\nendfacet\nfacet\nouter loop\nvertex 0 0 0\nvertex 9 0 0\nvertex 0 0 9\nendloop\nendfacet\n"+
				"facet\nouter loop\nvertex 9 0 0\nvertex 0 9 0\nvertex 0 0 9\nendloop\nendfacet\nfacet\nouter loop\nvertex 0 9 0\nvertex 0 0 0\nvertex 0 0 9\nendloop\nendfacet\nendsolid\n"), bytes.Repeat([]byte("\n"), 2<<20)...))
		}
		err = errors.Join(err, form.WriteField("name", "Wedge"), form.WriteField("support_pct", supports), form.Close())
		if err != nil {
			t.Fatal(err)
		}
		req, err := http.NewRequest(http.MethodPost, b.URL+"/api/v1/pieces", &body)
		if err != nil {
			t.Fatal(err)
		}
		req.Header.Set("Content-Type", form.FormDataContentType())
		if status, answer := b.do(req); status != want {
			t.Errorf("supports %s: %d %.200v", supports, status, answer)
		}
	}
	if left, err := os.ReadDir(os.TempDir()); err != nil || len(left) > 0 {
		t.Errorf("left behind: %v (%v)", left, err)
	}
	if _, list := b.call(http.MethodGet, "/api/v1/pieces", ""); strings.Count(fmt.Sprint(list["raw"]), `"mesh_sha256"`) != 1 {
		t.Errorf("pieces: %.300v", list)
	}
}

// Requests that took the machine's memory or its only writer are refused at once.
func TestHugeRequestsAreRefused(t *testing.T) {
	b := serveEmpty(t)
	names := strings.TrimSuffix(strings.Repeat(`"n",`, 9000), ",")
	for _, c := range []struct{ path, body, field string }{
		{"pack", `{"plate":{"name":"P","machine_id":"m","margin_mm":2,"spacing_mm":1,"overlap_allowed":false,"drip_ml":0,"liquid_ratio":1,"software":""},"placements":[],"more":{"piece_id":"p","copies":9223372036854775807,"scale_pct":100}}`, "more.copies"},
		{"run-preparations", `{"machine_id":"m","profile_id":"p","pieces":[{"piece_id":"x","copies":50000}]}`, "pieces[0].copies"},
		{"calc/evidence/rank", `{"items":[` + names + `],"contests":[]}`, "items"},
		{"instruments", `{"name":` + strings.Repeat("[", 200_000) + strings.Repeat("]", 200_000) + `}`, "body"},
	} {
		status, answer := b.call(http.MethodPost, "/api/v1/"+c.path, c.body)
		if status != http.StatusUnprocessableEntity || location(answer) != c.field {
			t.Errorf("%s: %d at %q, want 422 at %q", c.path, status, location(answer), c.field)
		}
	}
}

func TestALeftRequestIsNoFailure(t *testing.T) {
	for _, gone := range []error{context.Canceled, fmt.Errorf("waiting: %w", context.Canceled)} {
		if status := problem(gone).(interface{ GetStatus() int }).GetStatus(); status != statusStopped {
			t.Errorf("%v: %d", gone, status)
		}
	}
}

// The record goes out and comes back over HTTP, byte by byte the same; what is wrong
// with a file is named.
func TestTheRecordOverHTTP(t *testing.T) {
	b, other := serveEmpty(t), serveEmpty(t)
	if status, answer := b.call(http.MethodPost, "/api/v1/instruments", caliper+`}`); status != http.StatusOK {
		t.Fatal(answer)
	}
	text := func(c client) string {
		res, err := c.Client().Get(c.URL + "/api/v1/record")
		if err != nil {
			t.Fatal(err)
		}
		defer func() { _ = res.Body.Close() }()
		out, err := io.ReadAll(res.Body)
		if err != nil {
			t.Fatal(err)
		}
		return string(out)
	}
	file := text(b)
	if status, answer := other.call(http.MethodPost, "/api/v1/record", strings.Replace(file, `"resolution_mm":0.01`, `"resolution_mm":1e300`, 1)); status != 422 || location(answer) != "instruments[0].resolution_mm" {
		t.Errorf("a size beyond all bounds: %d %v", status, answer)
	}
	if status, answer := other.call(http.MethodPost, "/api/v1/record", file); status != http.StatusOK {
		t.Errorf("%d %v", status, answer)
	}
	if text(other) != file {
		t.Error("it came back as another")
	}
}

func TestARecordThatIsTooLargeSaysSo(t *testing.T) {
	body := http.MaxBytesReader(nil, io.NopCloser(strings.NewReader(`{"format":"x"}`)), 4)
	if _, err := io.ReadAll(limited{body}); !errors.Is(err, record.ErrTooLarge) {
		t.Errorf("%v", err)
	}
}

// Two changes told together ring twice: the second ring has nothing to tell, and says nothing.
func TestAChangeToldWithAnotherIsToldOnce(t *testing.T) {
	h := newHub()
	l := &listener{change: make(chan struct{}, 1), readings: make(chan []byte, 1)}
	h.listeners[l] = true
	h.tell("runs", "b")
	<-l.change
	h.tell("plates", "b")
	if line, err := h.news(l); err != nil || !strings.Contains(line, `{"of":["runs","plates"],"by":"b"}`) {
		t.Errorf("%q, %v", line, err)
	}
	<-l.change
	if line, err := h.news(l); err != nil || line != "" {
		t.Errorf("nothing is left to tell, and it says %q (%v)", line, err)
	}
}
