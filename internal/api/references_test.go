package api

import (
	"fmt"
	"net/http"
	"strings"
	"testing"
)

func TestAReferenceOverHTTP(t *testing.T) {
	b := serveEmpty(t)
	piece := b.importPiece("Pyramid")
	if empty := b.list("/api/v1/references"); empty != "[]" {
		t.Errorf("without any: %s", empty)
	}
	body := `{"name":"Pewter","piece_id":%q,"made_by":%q,"provenance":%q,"copies":%d}`
	for name, c := range map[string]struct{ text, field string }{
		"without a word where it is from": {fmt.Sprintf(body, piece, "casting", "", 1), "provenance"},
		"made by nobody that is known":    {fmt.Sprintf(body, piece, "magic", "a shelf", 1), "made_by"},
		"of a piece that is not there":    {fmt.Sprintf(body, "nothing", "casting", "a shelf", 1), "piece_id"},
		"of no copy":                      {fmt.Sprintf(body, piece, "casting", "a shelf", 0), "copies"},
		"of more copies than are taken":   {fmt.Sprintf(body, piece, "casting", "a shelf", 100), "copies"},
	} {
		if status, wrong := b.call(http.MethodPost, "/api/v1/references", c.text); status != http.StatusUnprocessableEntity || !strings.HasSuffix(location(wrong), c.field) {
			t.Errorf("%s: %d %v", name, status, wrong)
		}
	}
	made := b.want(http.MethodPost, "/api/v1/references", fmt.Sprintf(body, piece, "casting", "a friend's mould", 2))
	ref := made["reference"].(map[string]any)
	at := "/api/v1/references/" + ref["id"].(string)
	if got := b.want(http.MethodGet, at, ""); len(got["specimens"].([]any)) != 2 || len(got["readings"].([]any)) != 0 || got["reference"].(map[string]any)["code"] != "F1" {
		t.Errorf("%v", got)
	}
	if status, wrong := b.call(http.MethodPost, at+"/readings", `{"readings":[{"copy":1,"feature_id":"nothing","state":"present"}]}`); status != http.StatusUnprocessableEntity || !strings.HasSuffix(location(wrong), "feature_id") {
		t.Errorf("a reading of no feature: %d %v", status, wrong)
	}
	if status, _ := b.call(http.MethodGet, "/api/v1/runs/"+ref["id"].(string), ""); status != http.StatusNotFound {
		t.Errorf("as a print it is %d", status)
	}
	change := fmt.Sprintf(`{"name":"Pewter, washed","piece_id":%q,"made_by":"casting","provenance":"a friend's mould","copies":2,"version":%%d}`, piece)
	if again := b.want(http.MethodPut, at, fmt.Sprintf(change, 1)); again["reference"].(map[string]any)["name"] != "Pewter, washed" {
		t.Errorf("%v", again)
	}
	if status, _ := b.call(http.MethodPut, at, fmt.Sprintf(change, 1)); status != http.StatusConflict {
		t.Errorf("against an older version: %d", status)
	}
}

// The claims of a review's machines are listed over HTTP, also where nothing is claimed.
func TestClaimsOverHTTP(t *testing.T) {
	b := serveEmpty(t)
	review, _ := b.twoPrints()
	if none := b.want(http.MethodGet, review+"/claims", "")["rows"].([]any); len(none) != 0 {
		t.Errorf("claims %v", none)
	}
	if status, _ := b.call(http.MethodGet, "/api/v1/reviews/nowhere/claims", ""); status != http.StatusNotFound {
		t.Errorf("of a review that is not there: %d", status)
	}
}
