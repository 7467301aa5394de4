package api

import (
	"fmt"
	"net/http"
	"strings"
	"testing"
)

// twoPrints puts a review of one machine, resin and piece on record, with two prints.
func (b client) twoPrints() (review string, runs []string) {
	b.t.Helper()
	piece := b.importPiece("Pyramid")
	resin := b.want(http.MethodPost, "/api/v1/resins", `{"name":"Plain Grey","maker":"","family":"","colour":"#555555","bottle_g":1100,"density_g_ml":1.1,"price_list":30,
		"price_discount":0,"price_shipping":0,"price_tax_pct":0,"price_tax_included":true,"notes":""}`)["resin"].(map[string]any)["id"]
	machine := b.want(http.MethodPost, "/api/v1/machines", fmt.Sprintf(machineBody, "Ossik 7"))["machine"].(map[string]any)["id"]
	profile := b.want(http.MethodPost, "/api/v1/profiles", fmt.Sprintf(`{"machine_id":%q,"resin_id":%q,"layer_um":50,"exposure_s":2.5,"bottom_layers":5,
		"bottom_exposure_s":30,"transition_layers":0,"antialiasing":"none","basis":"default","sealed_name":"","note":""}`, machine, resin))["id"]
	for i := range 2 {
		sheet := b.want(http.MethodPost, "/api/v1/runs", fmt.Sprintf(runBody, machine, resin, profile, piece, 23+2*i))
		runs = append(runs, sheet["run"].(map[string]any)["id"].(string))
	}
	made := b.want(http.MethodPost, "/api/v1/reviews", fmt.Sprintf(`{"question":"Which?","readers":"All","under_test":["resin_temp_c"],"policy":"same_settings","disclosure":"",
		"verdict":"","not_tested":"","machine_ids":[%q],"resin_ids":[%q],"piece_ids":[%q]}`, machine, resin, piece))
	return "/api/v1/reviews/" + made["id"].(string), runs
}

// list asks for what is no object but a list.
func (b client) list(path string) string {
	b.t.Helper()
	text, _ := b.text(path)
	return strings.TrimSpace(text)
}

func TestWhatAReviewPutToTheTestOverHTTP(t *testing.T) {
	b := serveEmpty(t)
	review, _ := b.twoPrints()
	m := b.want(http.MethodGet, review+"/matrix", "")
	if rows, pieces := m["rows"].([]any), m["pieces"].([]any); len(rows) == 0 || len(pieces) != 1 || pieces[0].(map[string]any)["name"] != "Pyramid" {
		t.Errorf("matrix %v", m)
	}
	for _, key := range []string{"tells", "missing", "factors"} {
		if _, ok := m[key].([]any); !ok {
			t.Errorf("%s is %v, no list", key, m[key])
		}
	}
	if status, _ := b.call(http.MethodGet, "/api/v1/reviews/nowhere/matrix", ""); status != http.StatusNotFound {
		t.Errorf("a review that is not there: %d", status)
	}
}

// A review that names nothing yet has lists without entries, not none: its page opens.
func TestAReviewOfNothingYetHasEmptyLists(t *testing.T) {
	b := serveEmpty(t)
	made := b.want(http.MethodPost, "/api/v1/reviews", `{"question":"Which?","readers":"","under_test":[],"policy":"same_settings","disclosure":"","verdict":"","not_tested":"",
		"machine_ids":[],"resin_ids":[],"piece_ids":[]}`)
	at := "/api/v1/reviews/" + made["id"].(string)
	for key, list := range b.want(http.MethodGet, at+"/matrix", "") {
		if entries, ok := list.([]any); key != "$schema" && (!ok || len(entries) != 0) {
			t.Errorf("%s is %v", key, list)
		}
	}
	for _, path := range []string{"/left-out", "/set-ups"} {
		if got := b.list(at + path); got != "[]" {
			t.Errorf("%s is %s", path, got)
		}
	}
	if left, ok := made["left_out"].([]any); !ok || len(left) != 0 {
		t.Errorf("left out %v", made["left_out"])
	}
}

func TestPrintsAreLeftOutOverHTTP(t *testing.T) {
	b := serveEmpty(t)
	review, runs := b.twoPrints()
	at := review + "/left-out"
	if got := b.list(at); got != "[]" {
		t.Errorf("at first %s", got)
	}
	for _, c := range []struct{ name, body, field string }{
		{"no reason", fmt.Sprintf(`{"run_id":%q,"reason":"  "}`, runs[0]), "reason"},
		{"another's print", `{"run_id":"nowhere","reason":"cold"}`, "run_id"},
		{"nothing at all", `{}`, ""},
	} {
		status, problem := b.call(http.MethodPost, at, c.body)
		if status != http.StatusUnprocessableEntity || c.field != "" && !strings.Contains(location(problem), c.field) {
			t.Errorf("%s: %d at %q", c.name, status, location(problem))
		}
	}
	out := b.want(http.MethodPost, at, fmt.Sprintf(`{"run_id":%q,"reason":"A door stood open."}`, runs[0]))
	if left := out["left_out"].([]any); len(left) != 1 || out["version"] != 2.0 {
		t.Errorf("%v", out)
	}
	if got := b.list(at); !strings.Contains(got, `"reason":"A door stood open."`) || !strings.Contains(got, `"run":"R-001"`) {
		t.Errorf("left out: %s", got)
	}
	if setups := b.list(review + "/set-ups"); !strings.Contains(setups, fmt.Sprintf(`"left_out_ids":[%q]`, runs[0])) || strings.Contains(setups, `"runs":["R-001"`) {
		t.Errorf("set-ups %s", setups)
	}
	if table := b.list(review + "/tables/runs"); strings.Count(table, "A door stood open.") != 1 {
		t.Errorf("the table: %s", table)
	}
	again := b.want(http.MethodPost, at+"/"+runs[0]+"/take-back", "")
	if left := again["left_out"].([]any); len(left) != 0 || b.list(at) != "[]" {
		t.Errorf("taken back: %v", again)
	}
}
