package api

import (
	"bytes"
	"crypto/rand"
	"encoding/json"
	"io"
	"mime/multipart"
	"net/http"
	"net/http/httptest"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"testing/fstest"
	"time"

	"ojime/internal/store/storetest"
	"ojime/internal/work"
)

// client talks to a served empty record.
type client struct {
	t *testing.T
	*httptest.Server
}

func serveEmpty(t *testing.T) client {
	t.Helper()
	s := storetest.Open(t)
	ui := fstest.MapFS{"index.html": {Data: []byte("<!doctype html><title>page</title>")}, "assets/a.js": {Data: []byte("1")}}
	server := httptest.NewServer(New(t.Context(), work.New(s, time.Now, rand.Reader), ui, Place{}))
	t.Cleanup(server.Close)
	return client{t, server}
}

// call sends JSON text and returns the status and the decoded answer.
func (b client) call(method, path, body string) (int, map[string]any) {
	b.t.Helper()
	req, err := http.NewRequest(method, b.URL+path, strings.NewReader(body))
	if err != nil {
		b.t.Fatal(err)
	}
	req.Header.Set("Content-Type", "application/json")
	return b.do(req)
}

func (b client) do(req *http.Request) (int, map[string]any) {
	b.t.Helper()
	res, err := b.Client().Do(req)
	if err != nil {
		b.t.Fatal(err)
	}
	defer func() { _ = res.Body.Close() }()
	raw, err := io.ReadAll(res.Body)
	if err != nil {
		b.t.Fatal(err)
	}
	var out map[string]any
	if err := json.Unmarshal(raw, &out); err != nil {
		out = map[string]any{"raw": string(raw)}
	}
	return res.StatusCode, out
}

func location(problem map[string]any) string {
	list, _ := problem["errors"].([]any)
	if len(list) == 0 {
		return ""
	}
	where, _ := list[0].(map[string]any)["location"].(string)
	return where
}

// The numbers are held in the core's own test; here, that each calculator
// answers under its contract name, with its warnings and its error paths.
func TestEveryCalculatorAnswersOverHTTP(t *testing.T) {
	b := serveEmpty(t)
	files, err := filepath.Glob("../core/testdata/vectors/*.json")
	if err != nil || len(files) < 25 {
		t.Fatalf("%d vector files (%v)", len(files), err)
	}
	for _, file := range files {
		raw, err := os.ReadFile(file)
		if err != nil {
			t.Fatal(err)
		}
		var vectors struct {
			Endpoint string
			Cases    []struct {
				Name       string
				Input      json.RawMessage
				Expect     map[string]any
				ErrorField string `json:"error_field"`
			}
		}
		if err := json.Unmarshal(raw, &vectors); err != nil {
			t.Fatal(err)
		}
		for _, c := range vectors.Cases {
			status, got := b.call(http.MethodPost, "/api/v1/calc/"+vectors.Endpoint, string(c.Input))
			if c.ErrorField != "" {
				if status != http.StatusUnprocessableEntity || location(got) != c.ErrorField {
					t.Errorf("%s, %s: status %d at %q, want 422 at %q", vectors.Endpoint, c.Name, status, location(got), c.ErrorField)
				}
				continue
			}
			if status != http.StatusOK {
				t.Errorf("%s, %s: status %d: %v", vectors.Endpoint, c.Name, status, got["detail"])
			}
			if _, there := got["warnings"].([]any); !there {
				t.Errorf("%s, %s: no list of warnings", vectors.Endpoint, c.Name)
			}
			for field := range c.Expect {
				if _, there := got[field]; !there {
					t.Errorf("%s, %s: field %s is not there", vectors.Endpoint, c.Name, field)
				}
			}
		}
	}
}

const caliper = `{"name":"Caliper","resolution_mm":0.01,"reference_u_mm":0.01`

func TestAStaleWriteIsRefused(t *testing.T) {
	b := serveEmpty(t)
	status, made := b.call(http.MethodPost, "/api/v1/instruments", caliper+`}`)
	if status != http.StatusOK || made["code"] != "I1" || made["version"] != 1.0 {
		t.Fatalf("status %d: %v", status, made)
	}
	path := "/api/v1/instruments/" + made["id"].(string)
	if status, changed := b.call(http.MethodPut, path, caliper+`,"version":1}`); status != http.StatusOK || changed["version"] != 2.0 {
		t.Fatalf("status %d: %v", status, changed)
	}
	status, problem := b.call(http.MethodPut, path, caliper+`,"version":1}`)
	if status != http.StatusConflict || problem["type"] != problemStale {
		t.Errorf("status %d: %v, want 409 %s", status, problem, problemStale)
	}
	if status, _ := b.call(http.MethodPut, "/api/v1/instruments/nobody", caliper+`,"version":1}`); status != http.StatusNotFound {
		t.Errorf("an unknown id gives %d", status)
	}
}

func TestProblemsNameTheirField(t *testing.T) {
	b := serveEmpty(t)
	for _, c := range []struct{ path, body, want string }{
		{"/api/v1/instruments", `{"name":"","resolution_mm":0.01,"reference_u_mm":0}`, "name"},
		{"/api/v1/instruments", `{"name":"x","resolution_mm":"much","reference_u_mm":0}`, "resolution_mm"},
		{"/api/v1/instruments", `{"name":"x","resolution_mm":-1,"reference_u_mm":0}`, "resolution_mm"},
		{"/api/v1/profiles", `{"machine_id":"m","resin_id":"r","layer_um":0.05,"bottom_layers":1,"transition_layers":0,"antialiasing":"","basis":"default","sealed_name":"","note":""}`, "layer_um"},
	} {
		status, problem := b.call(http.MethodPost, c.path, c.body)
		if status != http.StatusUnprocessableEntity || location(problem) != c.want {
			t.Errorf("%s %s: status %d at %q, want 422 at %q", c.path, c.body, status, location(problem), c.want)
		}
	}
}

func TestWritesFromAnotherSiteAreRefused(t *testing.T) {
	b := serveEmpty(t)
	for header, value := range map[string]string{"Origin": "http://elsewhere.example", "Sec-Fetch-Site": "cross-site"} {
		req, err := http.NewRequest(http.MethodPost, b.URL+"/api/v1/instruments", strings.NewReader(caliper+`}`))
		if err != nil {
			t.Fatal(err)
		}
		req.Header.Set("Content-Type", "application/json")
		req.Header.Set(header, value)
		if status, _ := b.do(req); status != http.StatusForbidden {
			t.Errorf("%s %s: status %d, want 403", header, value, status)
		}
	}
	req, err := http.NewRequest(http.MethodPost, b.URL+"/api/v1/instruments", strings.NewReader(caliper+`}`))
	if err != nil {
		t.Fatal(err)
	}
	req.Header.Set("Origin", b.URL)
	if status, problem := b.do(req); status != http.StatusOK {
		t.Errorf("our own page: status %d: %v", status, problem)
	}
}

func TestABrokenMeshIsNamedAndNotKept(t *testing.T) {
	b := serveEmpty(t)
	var body bytes.Buffer
	form := multipart.NewWriter(&body)
	part, err := form.CreateFormFile("file", "../../climb.stl")
	if err != nil {
		t.Fatal(err)
	}
	if _, err := io.WriteString(part, "solid x\nfacet\nvertex 1 2 nan\n"); err != nil {
		t.Fatal(err)
	}
	if err := form.WriteField("name", "Torn"); err != nil {
		t.Fatal(err)
	}
	if err := form.Close(); err != nil {
		t.Fatal(err)
	}
	req, err := http.NewRequest(http.MethodPost, b.URL+"/api/v1/pieces", &body)
	if err != nil {
		t.Fatal(err)
	}
	req.Header.Set("Content-Type", form.FormDataContentType())
	status, problem := b.do(req)
	if detail, _ := problem["detail"].(string); status != http.StatusUnprocessableEntity || !strings.Contains(detail, "line 3") {
		t.Errorf("status %d: %v, want 422 naming line 3", status, problem)
	}
	if _, list := b.call(http.MethodGet, "/api/v1/pieces", ""); list["raw"] != "[]\n" && list["raw"] != "[]" {
		t.Errorf("pieces after a refusal: %v", list)
	}
}

func TestViewsHaveAddressesAndHeaders(t *testing.T) {
	b := serveEmpty(t)
	for path, want := range map[string]int{"/": 200, "/kit/machines/new": 200, "/assets/a.js": 200, "/healthz": 200, "/api/v1/nothing": 404, "/api/v1/openapi.json": 200} {
		res, err := b.Client().Get(b.URL + path)
		if err != nil {
			t.Fatal(err)
		}
		_ = res.Body.Close()
		if res.StatusCode != want {
			t.Errorf("%s: status %d, want %d", path, res.StatusCode, want)
		}
		if !strings.Contains(res.Header.Get("Content-Security-Policy"), "script-src 'self'") {
			t.Errorf("%s: no content policy", path)
		}
	}
}

func TestAChangeIsStreamed(t *testing.T) {
	b := serveEmpty(t)
	res, err := b.Client().Get(b.URL + "/api/v1/events")
	if err != nil {
		t.Fatal(err)
	}
	defer func() { _ = res.Body.Close() }()
	buffer := make([]byte, 512)
	if _, err := res.Body.Read(buffer); err != nil { // the stream is open
		t.Fatal(err)
	}
	if status, _ := b.call(http.MethodPost, "/api/v1/instruments", caliper+`}`); status != http.StatusOK {
		t.Fatalf("status %d", status)
	}
	n, err := res.Body.Read(buffer)
	if err != nil || !strings.Contains(string(buffer[:n]), "event: change") {
		t.Errorf("read %q (%v), want a change", buffer[:n], err)
	}
}
