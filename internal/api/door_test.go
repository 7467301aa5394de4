package api

import (
	"bytes"
	"crypto/rand"
	"encoding/json"
	"flag"
	"fmt"
	"net/http"
	"net/http/httptest"
	"os"
	"slices"
	"strings"
	"testing"
	"testing/fstest"
	"time"

	"ojime/internal/door"
	"ojime/internal/store/storetest"
	"ojime/internal/work"
)

const phrase = "four words on a door"

var updateScopes = flag.Bool("update-scopes", false, "write who may use what anew")

// guarded is an empty record behind a door, with the clock of the door.
func guarded(t *testing.T) (b client, d *door.Door, clock *time.Time) {
	t.Helper()
	at := time.Now()
	clock = &at
	d, err := door.Open(t.TempDir(), func() time.Time { return *clock })
	if err != nil {
		t.Fatal(err)
	}
	if err := d.SetPassphrase(phrase); err != nil {
		t.Fatal(err)
	}
	ui := fstest.MapFS{"index.html": {Data: []byte("<!doctype html><title>page</title>")}}
	server := httptest.NewServer(New(t.Context(), work.New(storetest.Open(t), time.Now, rand.Reader), ui, Place{Door: d}))
	t.Cleanup(server.Close)
	return client{t, server}, d, clock
}

// as asks with the cookie of a session, or without one.
func (b client) as(token, method, path, body string) (int, map[string]any) {
	b.t.Helper()
	req, err := http.NewRequest(method, b.URL+path, strings.NewReader(body))
	if err != nil {
		b.t.Fatal(err)
	}
	req.Header.Set("Content-Type", "application/json")
	if token != "" {
		req.AddCookie(&http.Cookie{Name: "ojime", Value: token})
	}
	return b.do(req)
}

// routes are all of the document, a line each, by address.
func routes(t *testing.T) (out [][2]string) {
	t.Helper()
	_, api := build(t.Context(), work.New(nil, nil, nil), fstest.MapFS{}, Place{})
	for path, item := range api.OpenAPI().Paths {
		for method, op := range map[string]any{"GET": item.Get, "POST": item.Post, "PUT": item.Put, "PATCH": item.Patch, "DELETE": item.Delete} {
			if text, err := json.Marshal(op); err == nil && string(text) != "null" {
				out = append(out, [2]string{method, path})
			}
		}
	}
	out = append(out, [2]string{"GET", "/api/v1/events"}, [2]string{"GET", "/api/v1/openapi.json"})
	slices.SortFunc(out, func(a, b [2]string) int { return strings.Compare(a[1]+" "+a[0], b[1]+" "+b[0]) })
	return out
}

// Who may use what is a table that somebody has looked at: a new route is not open to helpers before it stands there.
func TestWhoMayUseWhat(t *testing.T) {
	const file = "testdata/scopes.txt"
	var is bytes.Buffer
	for _, op := range routes(t) {
		again := ""
		if slices.Contains(asksAgain, op[0]+" "+op[1]) {
			again = ", passphrase again"
		}
		fmt.Fprintf(&is, "%-6s %-7s %s%s\n", scopeOf(op[0], op[1]), op[0], op[1], again)
	}
	if *updateScopes {
		if err := os.WriteFile(file, is.Bytes(), 0o600); err != nil {
			t.Fatal(err)
		}
	}
	want, err := os.ReadFile(file)
	if err != nil {
		t.Fatal(err)
	}
	if !bytes.Equal(is.Bytes(), want) {
		t.Errorf("%s is not what the program does; look at what differs, then run go test ./internal/api -run WhoMayUseWhat -update-scopes\n%s", file, is.String())
	}
	for _, named := range append(append(slices.Clone(helperWrites), asksAgain...), helperLists...) {
		if !slices.ContainsFunc(routes(t), func(op [2]string) bool { return op[0]+" "+op[1] == named }) {
			t.Errorf("%s is no operation", named)
		}
	}
	for _, kind := range helperReads {
		if !slices.ContainsFunc(routes(t), func(op [2]string) bool { return kindOf(op[1]) == kind || kindOf(op[1]) == kind+".json" }) {
			t.Errorf("%s is no kind of entry", kind)
		}
	}
}

// Every operation is tried by nobody, by a helper and by the owner: the door says 401 or 403 where the table does,
// before it reads a body, and never where it does not.
func TestTheDoorHoldsEveryOperation(t *testing.T) {
	b, d, clock := guarded(t)
	owner, _, err := d.Enter(t.Context(), phrase, "owner", "here")
	if err != nil {
		t.Fatal(err)
	}
	code, _, _ := d.Code()
	helper, _, err := d.EnterByCode(code, "helper", "here")
	if err != nil {
		t.Fatal(err)
	}
	*clock = clock.Add(time.Hour)
	refusals := 0
	for _, op := range routes(t) {
		method, path := op[0], strings.NewReplacer("{", "", "}", "").Replace(op[1])
		if path == "/api/v1/events" || strings.HasPrefix(path, "/api/v1/door/ending") || strings.HasPrefix(path, "/api/v1/door/leaving") {
			continue // a stream does not end, and a session that ended is no session
		}
		scope := scopeOf(op[0], op[1])
		for who, token := range map[string]string{"nobody": "", "helper": helper, "owner": owner} {
			status, answer := b.as(token, method, path, "")
			kind, _ := answer["type"].(string)
			door := status == http.StatusUnauthorized && kind == problemEnter || status == http.StatusForbidden && (kind == problemConfirm || strings.HasPrefix(fmt.Sprint(answer["detail"]), "A helper may"))
			want := (who == "nobody" && (scope == forHelper || scope == forOwner)) || (who == "helper" && scope == forOwner) || (who == "owner" && slices.Contains(asksAgain, op[0]+" "+op[1]))
			if door != want {
				t.Errorf("%s %s for %s: status %d, %v", method, path, who, status, answer)
			}
			if door {
				refusals++
			}
			if status >= 500 {
				t.Errorf("%s %s for %s: status %d", method, path, who, status)
			}
		}
	}
	if refusals < 400 {
		t.Errorf("%d refusals; the test sees too little", refusals)
	}
	if status, _ := b.as("", "GET", "/api/v1/events", ""); status != http.StatusUnauthorized {
		t.Errorf("the stream answers %d", status)
	}
}

func TestComingInAndGoing(t *testing.T) {
	b, d, clock := guarded(t)
	if _, answer := b.as("", "GET", "/api/v1/door", ""); answer["needed"] != true || answer["scope"] != "" {
		t.Fatalf("%v", answer)
	}
	if status, answer := b.as("", "POST", "/api/v1/door/sessions", `{"passphrase":"wrong words on it"}`); status != http.StatusForbidden || strings.Contains(fmt.Sprint(answer), "words") {
		t.Errorf("a wrong one: %d %v", status, answer)
	}
	res, err := b.Client().Post(b.URL+"/api/v1/door/sessions", "application/json", strings.NewReader(`{"passphrase":"`+phrase+`","name":"the bench"}`))
	if err != nil {
		t.Fatal(err)
	}
	_ = res.Body.Close() // its status and cookie say enough
	cookies := res.Cookies()
	if res.StatusCode != http.StatusOK || len(cookies) != 1 || !cookies[0].HttpOnly || cookies[0].SameSite != http.SameSiteStrictMode || cookies[0].Path != "/" || cookies[0].Secure {
		t.Fatalf("%d %+v", res.StatusCode, cookies)
	}
	token := cookies[0].Value
	if status, _ := b.as(token, "GET", "/api/v1/bench", ""); status != http.StatusOK {
		t.Errorf("inside: %d", status)
	}
	*clock = clock.Add(11 * time.Minute)
	if status, answer := b.as(token, "GET", "/api/v1/record", ""); status != http.StatusForbidden || answer["type"] != problemConfirm {
		t.Errorf("an export an hour later: %d %v", status, answer)
	}
	if status, _ := b.as(token, "POST", "/api/v1/door/confirmation", `{"passphrase":"`+phrase+`"}`); status != http.StatusOK {
		t.Errorf("again: %d", status)
	}
	if status, answer := b.as(token, "GET", "/api/v1/record", ""); status != http.StatusOK || answer["machines"] == nil {
		t.Errorf("after it: %d", status)
	}
	_, code := b.as(token, "POST", "/api/v1/door/codes", "")
	if status, answer := b.as("", "POST", "/api/v1/door/helpers", fmt.Sprintf(`{"code":%q,"name":"phone"}`, code["code"])); status != http.StatusOK || answer["scope"] != "helper" {
		t.Errorf("by code: %d %v", status, answer)
	}
	inside := d.Sessions()
	if len(inside) != 2 {
		t.Fatalf("%+v", inside)
	}
	phone := inside[slices.IndexFunc(inside, func(s door.Session) bool { return s.Name == "phone" })]
	if status, answer := b.as(token, "POST", "/api/v1/door/sessions/"+phone.ID+"/ending", ""); status != http.StatusOK || strings.Contains(fmt.Sprint(answer), phone.TokenSHA256) {
		t.Errorf("%d %v", status, answer)
	}
	if status, _ := b.as(token, "POST", "/api/v1/door/sessions/"+phone.ID+"/ending", ""); status != http.StatusNotFound {
		t.Errorf("ended twice: %d", status)
	}
	if _, events := b.as(token, "GET", "/api/v1/door/log", ""); !strings.Contains(fmt.Sprint(events), "GET /api/v1/record") || strings.Contains(fmt.Sprint(events), token) || strings.Contains(fmt.Sprint(events), "words on") {
		t.Errorf("%v", events)
	}
	if status, _ := b.as(token, "POST", "/api/v1/door/ending", ""); status != http.StatusOK {
		t.Errorf("%d", status)
	}
	if status, answer := b.as(token, "GET", "/api/v1/bench", ""); status != http.StatusUnauthorized || answer["type"] != problemEnter {
		t.Errorf("after all sessions ended: %d %v", status, answer)
	}
	// The page itself holds nothing of the record, and has to be there to ask.
	if res, err := b.Client().Get(b.URL + "/kit"); err != nil || res.StatusCode != http.StatusOK || res.Body.Close() != nil {
		t.Errorf("%v", err)
	}
}

// Where only this machine can reach it, nobody is asked, and there is nobody to let in.
func TestOnThisMachineAloneThereIsNoDoor(t *testing.T) {
	b := serveEmpty(t)
	if _, answer := b.call("GET", "/api/v1/door", ""); answer["needed"] != false || answer["scope"] != "owner" {
		t.Errorf("%v", answer)
	}
	for path, body := range map[string]string{"/api/v1/door/sessions": `{"passphrase":"x"}`, "/api/v1/door/helpers": `{"code":"1"}`, "/api/v1/door/codes": "", "/api/v1/door/ending": ""} {
		if status, _ := b.call("POST", path, body); status != http.StatusConflict {
			t.Errorf("%s: %d", path, status)
		}
	}
}
