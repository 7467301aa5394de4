package api

import (
	"bufio"
	"fmt"
	"net/http"
	"strings"
	"testing"
)

// feed sends what a device would.
func (b client) feed(token, kind, body string) (int, map[string]any) {
	b.t.Helper()
	req, err := http.NewRequest(http.MethodPost, b.URL+"/api/v1/feed", strings.NewReader(body))
	if err != nil {
		b.t.Fatal(err)
	}
	req.Header.Set("Authorization", "Bearer "+token)
	req.Header.Set("Content-Type", kind)
	return b.do(req)
}

func TestAFeedOverHTTP(t *testing.T) {
	b := serveEmpty(t)
	made := b.want(http.MethodPost, "/api/v1/devices", `{"name":"Caliper","kind":"caliper"}`)
	token := made["token"].(string)
	if device := made["device"].(map[string]any); device["code"] != "D1" || device["token_sha256"] != nil {
		t.Errorf("device %v", device)
	}
	for _, c := range []struct {
		kind, body string
		status     int
		want       string
	}{
		{"text/plain; charset=utf-8", "a 1 1790000000000 reading 12,03 mm\na 2 1790000001000 reading 12.04 mm", 200, "2 0 0"},
		{"application/x-ndjson", `{"session":"a","seq":2,"at_ms":1790000001000,"kind":"reading","value":12.04,"unit":"mm"}`, 200, "0 1 0"},
		{"application/json", `{"session":"a","seq":5,"at_ms":1790000002000,"kind":"reading","value":12.05,"unit":"mm"}`, 200, "1 0 2"},
		{"application/json", `{"session":"a","seq":6,"at_ms":1790000002000,"kind":"reading","value":12.05,"unit":"g"}`, 200, "0 0 0"},
		{"text/plain", "a 6 soon reading 12 mm", 422, "line 1"},
		{"text/plain", "# nothing", 422, "messages"},
	} {
		status, answer := b.feed(token, c.kind, c.body)
		got := fmt.Sprint(answer["new"], " ", answer["doubled"], " ", answer["lost"])
		if status != http.StatusOK {
			got = location(answer)
		}
		if status != c.status || got != c.want {
			t.Errorf("%q: %d %v, want %d %s", c.body, status, answer, c.status, c.want)
		}
	}
	if status, answer := b.feed("guess", "text/plain", "a 9 1 reading 1 mm"); status != http.StatusUnauthorized || !strings.Contains(answer["detail"].(string), "token") {
		t.Errorf("a guessed token: %d %v", status, answer)
	}
	if status, _ := b.call(http.MethodGet, "/api/v1/feed/job", ""); status != http.StatusUnauthorized {
		t.Errorf("a job without a token: %d", status)
	}
	b.want(http.MethodPost, "/api/v1/devices/"+made["device"].(map[string]any)["id"].(string)+"/retirement", "{}")
	if status, _ := b.feed(token, "text/plain", "a 9 1 reading 1 mm"); status != http.StatusUnauthorized {
		t.Errorf("a retired device: %d", status)
	}
}

// A reading reaches a page that is open, and nothing else is told of it.
func TestAReadingReachesAnOpenPage(t *testing.T) {
	b := serveEmpty(t)
	token := b.want(http.MethodPost, "/api/v1/devices", `{"name":"Caliper","kind":"caliper"}`)["token"].(string)
	page, err := b.Client().Get(b.URL + "/api/v1/events")
	if err != nil {
		t.Fatal(err)
	}
	defer func() { _ = page.Body.Close() }()
	lines := bufio.NewScanner(page.Body)
	if !lines.Scan() || lines.Text() != ": open" {
		t.Fatalf("the stream began with %q", lines.Text())
	}
	if status, answer := b.feed(token, "text/plain", "a 1 1790000000000 reading 12,03 mm"); status != http.StatusOK {
		t.Fatalf("%d %v", status, answer)
	}
	var said []string
	for len(said) < 2 && lines.Scan() {
		if lines.Text() != "" {
			said = append(said, lines.Text())
		}
	}
	if len(said) != 2 || said[0] != "event: reading" || !strings.Contains(said[1], `"value":12.03`) {
		t.Errorf("the page heard %q", said)
	}
}

func TestStandInsStartAndEnd(t *testing.T) {
	b := serveEmpty(t)
	started := b.want(http.MethodPost, "/api/v1/stand-ins", `{"kind":"thermometer","speed":1,"seed":1,"value":0,"faults":[]}`)
	if started["ended"] != false {
		t.Errorf("started: %v", started)
	}
	b.want(http.MethodGet, "/api/v1/stand-ins", "")
	status, _ := b.call(http.MethodPost, "/api/v1/stand-ins/"+started["device_id"].(string)+"/end", "")
	if status != http.StatusOK {
		t.Errorf("ended: %d", status)
	}
	if status, _ := b.call(http.MethodPost, "/api/v1/stand-ins/none/end", ""); status != http.StatusNotFound {
		t.Errorf("one that is not there: %d", status)
	}
	if status, answer := b.call(http.MethodPost, "/api/v1/stand-ins", `{"kind":"oven","speed":1,"seed":1,"value":0,"faults":[]}`); status != http.StatusUnprocessableEntity || location(answer) != "kind" {
		t.Errorf("an oven: %d %v", status, answer)
	}
	if status, answer := b.call(http.MethodPost, "/api/v1/stand-ins", `{"kind":"printer","speed":1,"seed":1,"value":0,"faults":[]}`); status != http.StatusUnprocessableEntity || location(answer) != "machine_id" {
		t.Errorf("a printer of no machine: %d %v", status, answer)
	}
}
