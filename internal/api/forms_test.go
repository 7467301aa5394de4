package api

import (
	"fmt"
	"net/http"
	"strings"
	"testing"
)

// judgedWhole is a print whose copies are all judged whole, with the first of them.
func (b client) judgedWhole() (at, specimen, piece string) {
	b.t.Helper()
	_, runs := b.twoPrints()
	at = "/api/v1/runs/" + runs[0]
	sheet := b.want(http.MethodGet, at, "")
	text := []string{}
	for _, s := range sheet["specimens"].([]any) {
		s := s.(map[string]any)
		text = append(text, fmt.Sprintf(`{"id":%q,"run_id":%q,"copy":%v,"code":%q,"version":%v,"piece_id":%q,"outcome":"whole","note":"","scale_pct":100,"defects":[]}`, s["id"], s["run_id"], s["copy"], s["code"], s["version"], s["piece_id"]))
	}
	b.want(http.MethodPut, at+"/outcomes", "["+strings.Join(text, ",")+"]")
	first := sheet["specimens"].([]any)[0].(map[string]any)
	return at, first["id"].(string), "/api/v1/pieces/" + first["piece_id"].(string)
}

func TestFormsOverHTTP(t *testing.T) {
	b := serveEmpty(t)
	at, specimen, piece := b.judgedWhole()
	if kinds := b.list("/api/v1/form-kinds"); !strings.Contains(kinds, `"turned by 60°"`) {
		t.Errorf("%.200s", kinds)
	}
	for field, text := range map[string]string{"nominal": `{"kind":"angle","name":"Corner"}`, "kind": `{"kind":"charm","name":"Charm"}`, "rungs_mm": `{"kind":"fit","name":"Socket","rungs_mm":[0.1]}`} {
		if status, said := b.call(http.MethodPost, piece+"/forms", text); status != http.StatusUnprocessableEntity || !strings.HasSuffix(location(said), field) {
			t.Errorf("%s: %d %v", field, status, said)
		}
	}
	if status, _ := b.call(http.MethodPost, piece+"/forms", `{"kind":"round","name":"Rim"}`); status != http.StatusOK {
		t.Fatalf("a rim: %d", status)
	}
	sheet := b.want(http.MethodGet, at, "")
	form := sheet["forms"].([]any)[0].(map[string]any)["id"].(string)
	reading := func(mm string) string {
		return fmt.Sprintf(`{"reading":{"specimen_id":%q,"form_id":%q,"measured":[%s]}}`, specimen, form, mm)
	}
	if status, said := b.call(http.MethodPost, at+"/form-readings", reading("10,10")); status != http.StatusUnprocessableEntity || !strings.Contains(fmt.Sprint(said), "asks for 3") {
		t.Errorf("two diameters: %d %v", status, said)
	}
	if status, said := b.call(http.MethodPost, at+"/form-readings", reading("10,14,10")); status != http.StatusUnprocessableEntity || said["type"] != "urn:ojime:questioned" {
		t.Errorf("a slip: %d %v", status, said)
	}
	sheet = b.want(http.MethodPost, at+"/form-readings", reading("10,10.04,10"))
	if words := sheet["form_words"].([]any); len(words) != 1 || words[0] != "out of round +40 µm" {
		t.Errorf("%v", words)
	}
	back := at + "/form-readings/" + sheet["form_readings"].([]any)[0].(map[string]any)["id"].(string) + "/taking-back"
	b.want(http.MethodPost, back, `{"why":"dirt"}`)
	if status, _ := b.call(http.MethodPost, back, `{"why":"again"}`); status != http.StatusConflict {
		t.Errorf("taken back twice: %d", status)
	}
	if status, _ := b.call(http.MethodPost, piece+"/forms/"+form+"/retiring", ""); status != http.StatusOK {
		t.Errorf("retired: %d", status)
	}
	if left := b.list(piece + "/forms"); left != "[]" {
		t.Errorf("%s", left)
	}
}

func TestStagesAndTheCardOfAResinOverHTTP(t *testing.T) {
	b := serveEmpty(t)
	at, specimen, _ := b.judgedWhole()
	stage := func(s string) string {
		return fmt.Sprintf(`{"specimen_ids":[%q],"stage":%q,"rework_min":3}`, specimen, s)
	}
	if status, said := b.call(http.MethodPost, at+"/stages", stage("gilded")); status != http.StatusUnprocessableEntity || !strings.HasSuffix(location(said), "stage") {
		t.Errorf("gilded: %d %v", status, said)
	}
	sheet := b.want(http.MethodPost, at+"/stages", stage("primed"))
	if sheet["reached"].([]any)[0] != "primed" {
		t.Errorf("%v", sheet["reached"])
	}
	if status, said := b.call(http.MethodPost, at+"/stages", stage("raw")); status != http.StatusUnprocessableEntity || !strings.HasSuffix(location(said), "stage") {
		t.Errorf("raw again: %d %v", status, said)
	}
	back := at + "/stages/" + sheet["stages"].([]any)[0].(map[string]any)["id"].(string) + "/taking-back"
	if sheet = b.want(http.MethodPost, back, ""); sheet["reached"].([]any)[0] == "primed" {
		t.Errorf("%v", sheet["reached"])
	}
	resin := "/api/v1/resins/" + sheet["resin"].(map[string]any)["id"].(string)
	if status, said := b.call(http.MethodPost, resin+"/weighings", `{"mass_g":0,"volume_ml":10}`); status != http.StatusUnprocessableEntity || !strings.HasSuffix(location(said), "mass_g") {
		t.Errorf("no mass: %d %v", status, said)
	}
	card := b.want(http.MethodPost, resin+"/weighings", `{"mass_g":11,"volume_ml":10}`)
	weighing := card["weighings"].([]any)[0].(map[string]any)
	if weighing["density_g_ml"] != 1.1 || card["figures"].([]any)[0].(map[string]any)["value"] != "1.1 g/ml" {
		t.Errorf("%v", card["figures"])
	}
	card = b.want(http.MethodPost, resin+"/weighings/"+weighing["id"].(string)+"/taking-back", "")
	if missing := fmt.Sprint(card["missing"]); !strings.Contains(missing, "Density") {
		t.Errorf("%s", missing)
	}
	if svg, header := b.text("/api/v1/coupons/line-scale.svg"); !strings.HasPrefix(svg, "<svg") || header.Get("Content-Type") != "image/svg+xml" {
		t.Errorf("%.60s as %s", svg, header.Get("Content-Type"))
	}
}
