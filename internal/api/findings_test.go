package api

import (
	"fmt"
	"net/http"
	"strings"
	"testing"
)

// Findings over HTTP: offered by a comparison, picked, put in words and in order, taken back; what is refused says
// which field.
func TestFindingsOverHTTP(t *testing.T) {
	b := serveEmpty(t)
	review, runs := b.twoPrints()
	of := review + "/findings"
	for _, run := range runs {
		b.judged(run)
	}
	sheet := b.want(http.MethodGet, of, "")
	offered := sheet["offered"].([]any)
	if len(sheet["picked"].([]any)) != 0 {
		t.Fatalf("%v", sheet["picked"])
	}
	for _, c := range []struct{ body, field string }{{`{}`, "words"}, {`{"key":"nothing"}`, "key"}, {fmt.Sprintf(`{"words":%q}`, strings.Repeat("x", 1001)), "words"}} {
		if status, answer := b.call(http.MethodPost, of, c.body); status != http.StatusUnprocessableEntity || location(answer) != c.field {
			t.Errorf("%.40s: %d at %q", c.body, status, location(answer))
		}
	}
	picked := 0
	if len(offered) > 0 {
		b.want(http.MethodPost, of, fmt.Sprintf(`{"key":%q}`, offered[0].(map[string]any)["key"]))
		picked++
	}
	list := b.want(http.MethodPost, of, `{"words":"The lid lifts off with one hand."}`)["picked"].([]any)
	if len(list) != picked+1 {
		t.Fatalf("%d picked", len(list))
	}
	own := list[picked].(map[string]any)["finding"].(map[string]any)
	id := own["id"].(string)
	if own["grade"] != "looked" || own["code"] != fmt.Sprintf("N-%02d", picked+1) {
		t.Errorf("%v", own)
	}
	if status, _ := b.call(http.MethodPost, "/api/v1/findings/"+id+"/wording", `{"version":7,"words":"x"}`); status != http.StatusConflict {
		t.Errorf("a stale wording: %d", status)
	}
	b.want(http.MethodPost, "/api/v1/findings/"+id+"/wording", `{"version":1,"words":"The lid lifts off easily."}`)
	ids := []string{fmt.Sprintf("%q", id)}
	for _, p := range list[:picked] {
		ids = append(ids, fmt.Sprintf("%q", p.(map[string]any)["finding"].(map[string]any)["id"]))
	}
	ordered := b.want(http.MethodPut, of, fmt.Sprintf(`{"ids":[%s]}`, strings.Join(ids, ",")))["picked"].([]any)
	if first := ordered[0].(map[string]any); first["says"] != "The lid lifts off easily." {
		t.Errorf("%v", first)
	}
	if status, _ := b.call(http.MethodPost, "/api/v1/findings/nobody/taking-back", `{}`); status != http.StatusNotFound {
		t.Errorf("a finding that is not there: %d", status)
	}
	b.want(http.MethodPost, "/api/v1/findings/"+id+"/taking-back", `{"why":"it is about the lid"}`)
	if text, _ := b.text(review + "/write-up.md"); strings.Contains(text, "lid") {
		t.Error("what was taken back is written up")
	}
}
