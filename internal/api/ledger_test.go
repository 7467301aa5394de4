package api

import (
	"fmt"
	"net/http"
	"testing"
)

// A claim and how a thing came, over HTTP: kept, refused by field, changed against a version, taken back.
func TestClaimsAndInterestsOverHTTP(t *testing.T) {
	b := serveEmpty(t)
	review, runs := b.twoPrints()
	machine := b.want(http.MethodGet, "/api/v1/runs/"+runs[0], "")["machine"].(map[string]any)["id"]
	claim := func(rest string) string {
		return fmt.Sprintf(`{"machine_id":%q,"words":"Lasts for ever","source":"the box","interest":"maker"%s}`, machine, rest)
	}
	for _, c := range []struct{ rest, field string }{
		{`,"kind":"life"`, "value"}, {`,"kind":"promise"`, "kind"}, {`,"kind":"life","value":-1,"of":"light_h"`, "value"}, {`,"kind":"words","state":"met"`, "why"}, {`,"kind":"words","resin_id":"nothing"`, "resin_id"},
	} {
		if status, answer := b.call(http.MethodPost, "/api/v1/claims", claim(c.rest)); status != http.StatusUnprocessableEntity || location(answer) != c.field {
			t.Errorf("%s: %d at %q", c.rest, status, location(answer))
		}
	}
	kept := b.want(http.MethodPost, "/api/v1/claims", claim(`,"kind":"life","value":2000,"of":"light_h"`))
	at := "/api/v1/claims/" + kept["id"].(string)
	if kept["code"] != "Y-01" || kept["version"] != 1.0 {
		t.Errorf("%v", kept)
	}
	if status, _ := b.call(http.MethodPut, at, claim(`,"kind":"words","version":9`)); status != http.StatusConflict {
		t.Errorf("a stale claim: %d", status)
	}
	b.want(http.MethodPut, at, claim(`,"kind":"words","version":1,"state":"untestable","why":"nothing does"`))
	rows := b.want(http.MethodGet, review+"/claims", "")["rows"].([]any)
	if row := rows[0].(map[string]any); len(rows) != 1 || row["state"] != "untestable" || row["judged"] != true {
		t.Errorf("%v", rows)
	}
	b.want(http.MethodPost, at+"/taking-back", `{"why":"they took it down"}`)
	if rows := b.want(http.MethodGet, review+"/claims", "")["rows"].([]any); len(rows) != 0 {
		t.Errorf("%v", rows)
	}
	if status, _ := b.call(http.MethodPost, at+"/taking-back", `{"why":"again"}`); status != http.StatusConflict {
		t.Errorf("taken back twice: %d", status)
	}
	for _, c := range []struct{ body, field string }{{`{"how":"bought"}`, "machine_id"}, {fmt.Sprintf(`{"how":"found","machine_id":%q}`, machine), "how"}, {fmt.Sprintf(`{"how":"bought","machine_id":%q,"day":"soon"}`, machine), "day"}} {
		if status, answer := b.call(http.MethodPost, "/api/v1/interests", c.body); status != http.StatusUnprocessableEntity || location(answer) != c.field {
			t.Errorf("%s: %d at %q", c.body, status, location(answer))
		}
	}
}
