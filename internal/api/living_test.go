package api

import (
	"fmt"
	"net/http"
	"strings"
	"testing"
)

func TestLivingWithAMachineOverHTTP(t *testing.T) {
	b := serveEmpty(t)
	at, _, _ := b.judgedWhole()
	machine := "/api/v1/machines/" + b.want(http.MethodGet, at, "")["machine"].(map[string]any)["id"].(string)
	living := b.want(http.MethodGet, machine+"/living", "")
	if ratings := living["ratings"].([]any); len(ratings) != 0 {
		t.Errorf("%v", ratings)
	}
	if scales := living["scales"].([]any); len(scales) == 0 || scales[0].(map[string]any)["lived"] != nil {
		t.Errorf("%v", scales)
	}
	for field, text := range map[string]string{
		"scale":      `{"scale":"charm","score":2,"rater":"Ida"}`,
		"rater":      `{"scale":"lid","score":2,"rater":""}`,
		"score":      `{"scale":"lid","score":5,"rater":"Ida"}`,
		"conditions": `{"scale":"noise","score":2,"rater":"Ida"}`,
	} {
		if status, said := b.call(http.MethodPost, machine+"/ratings", text); status != http.StatusUnprocessableEntity || !strings.HasSuffix(location(said), field) {
			t.Errorf("%s: %d %v", field, status, said)
		}
	}
	living = b.want(http.MethodPost, machine+"/ratings", `{"scale":"lid","score":2,"rater":"Ida"}`)
	first := living["ratings"].([]any)[0].(map[string]any)
	back := machine + "/ratings/" + first["id"].(string) + "/taking-back"
	if status, said := b.call(http.MethodPost, back, `{"why":""}`); status != http.StatusUnprocessableEntity || !strings.HasSuffix(location(said), "why") {
		t.Errorf("no reason: %d %v", status, said)
	}
	living = b.want(http.MethodPost, back, `{"why":"the other machine"}`)
	if first = living["ratings"].([]any)[0].(map[string]any); first["taken_back_why"] != "the other machine" {
		t.Errorf("%v", first)
	}
	if status, _ := b.call(http.MethodPost, back, `{"why":"again"}`); status != http.StatusNotFound {
		t.Errorf("taken back twice: %d", status)
	}
	if status, _ := b.call(http.MethodGet, "/api/v1/machines/nobody/living", ""); status != http.StatusNotFound {
		t.Errorf("nobody's machine: %d", status)
	}
}

func TestFitsAndEveryReadingOverHTTP(t *testing.T) {
	b := serveEmpty(t)
	if got := b.want(http.MethodGet, "/api/v1/readings", ""); len(got["lines"].([]any)) != 0 || got["more"] != false {
		t.Errorf("an empty record: %v", got)
	}
	at, specimen, piece := b.judgedWhole()
	if status, _ := b.call(http.MethodPost, piece+"/forms", `{"kind":"fit","name":"Socket","rungs_mm":[0.1,0.2]}`); status != http.StatusOK {
		t.Fatalf("a fit: %d", status)
	}
	sheet := b.want(http.MethodGet, at, "")
	if m := sheet["fit_matrices"].([]any); len(m) != 0 {
		t.Errorf("nothing was tried: %v", m)
	}
	form := sheet["forms"].([]any)[0].(map[string]any)["id"].(string)
	for _, peg := range []string{"bone", "brass", "bone"} {
		b.want(http.MethodPost, at+"/form-readings", fmt.Sprintf(`{"reading":{"specimen_id":%q,"form_id":%q,"mate":%q,"rungs":[{"rung_mm":0.1,"outcome":"tight"}]}}`, specimen, form, peg))
	}
	matrix := b.want(http.MethodGet, at, "")["fit_matrices"].([]any)[0].(map[string]any)
	rows := matrix["rows"].([]any)
	if len(rows) != 2 || matrix["name"] != "Socket" {
		t.Fatalf("%v", matrix)
	}
	bone := rows[0].(map[string]any)
	cells := bone["cells"].([]any)
	if bone["mate"] != "bone" || bone["tries"] != 2.0 || cells[0].(map[string]any)["words"] != "tight 2" || cells[1].(map[string]any)["words"] != "" {
		t.Errorf("%v", bone)
	}
	if status, said := b.call(http.MethodPost, at+"/form-readings", fmt.Sprintf(`{"reading":{"specimen_id":%q,"form_id":%q,"mate":"bone","rungs":[{"rung_mm":0.3,"outcome":"tight"}]}}`, specimen, form)); status != http.StatusUnprocessableEntity {
		t.Errorf("a clearance that the fit has not: %d %v", status, said)
	}
}
