package api

import (
	"encoding/json"
	"fmt"
	"net/http"
	"strings"
	"testing"
)

// An instrument is entered, checked and studied over HTTP; what is wrong is named by its field.
func TestInstrumentsOverHTTP(t *testing.T) {
	b := serveEmpty(t)
	made := b.want(http.MethodPost, "/api/v1/instruments", `{"name":"Caliper","resolution_mm":0.01,"reference_u_mm":0.01}`)
	if made["kind"] != "caliper" {
		t.Errorf("one whose kind is not said is %v", made["kind"])
	}
	if status, said := b.call(http.MethodPost, "/api/v1/instruments", `{"name":"Eye","kind":"eye","resolution_mm":1,"reference_u_mm":1}`); status != http.StatusUnprocessableEntity || !strings.HasSuffix(location(said), "kind") {
		t.Errorf("an eye: %d %v", status, said)
	}
	one := "/api/v1/instruments/" + made["id"].(string)
	if card := b.want(http.MethodGet, one, ""); card["state"] != "unchecked" || card["unit"] != "mm" || card["lengths"] != true || len(card["checks"].([]any)) != 0 {
		t.Errorf("before the first check: %v", card)
	}
	check := func(shown, tolerance float64) string {
		return fmt.Sprintf(`{"against":"block","true_value":10,"shown_value":%v,"tolerance":%v}`, shown, tolerance)
	}
	if status, said := b.call(http.MethodPost, one+"/checks", check(10, 0)); status != http.StatusUnprocessableEntity || !strings.HasSuffix(location(said), "tolerance") {
		t.Errorf("a check without a tolerance: %d %v", status, said)
	}
	b.want(http.MethodPost, one+"/checks", check(10.01, 0.02))
	card := b.want(http.MethodPost, one+"/checks", check(10.05, 0.02))
	last := card["checks"].([]any)[0].(map[string]any)
	if card["state"] != "out" || last["good"] != false || len(card["doubts"].([]any)) != 1 {
		t.Errorf("after a failed one: %v", card)
	}
	back := one + "/checks/" + last["id"].(string) + "/taking-back"
	if status, said := b.call(http.MethodPost, back, `{"why":""}`); status != http.StatusUnprocessableEntity || !strings.HasSuffix(location(said), "why") {
		t.Errorf("without a reason: %d %v", status, said)
	}
	if card = b.want(http.MethodPost, back, `{"why":"dirt"}`); card["state"] != "good" || len(card["doubts"].([]any)) != 0 {
		t.Errorf("after taking it back: %v", card)
	}
	if status, _ := b.call(http.MethodPost, back, `{"why":"again"}`); status != http.StatusConflict {
		t.Errorf("taken back twice: %d", status)
	}
	for field, text := range map[string]string{
		"parts":     `{"what":"width","parts":["a"],"operators":["m"],"repeats":2}`,
		"repeats":   `{"what":"width","parts":["a","b"],"operators":["m"],"repeats":1}`,
		"operators": `{"what":"width","parts":["a","b"],"operators":[],"repeats":2}`,
		"parts[1]":  `{"what":"width","parts":["a","a"],"operators":["m"],"repeats":2}`,
	} {
		if status, said := b.call(http.MethodPost, one+"/studies", text); status != http.StatusUnprocessableEntity || !strings.HasSuffix(location(said), field) {
			t.Errorf("%s: %d %v", field, status, said)
		}
	}
	study := b.want(http.MethodPost, one+"/studies", `{"what":"width","parts":["a","b"],"operators":["Marn"],"repeats":2}`)
	id := study["study"].(map[string]any)["id"].(string)
	size := map[string]float64{"a": 10, "b": 10.3}
	for n := range 4 {
		step := study["steps"].([]any)[n].(map[string]any)
		study = b.want(http.MethodPost, "/api/v1/gauge-studies/"+id+"/readings", fmt.Sprintf(`{"value_mm":%v}`, size[step["part"].(string)]+0.01*float64(n%2)))
	}
	if study["result"] == nil || study["next"] != 4.0 || len(study["says"].([]any)) < 2 {
		t.Errorf("%v", study)
	}
	if status, _ := b.call(http.MethodPost, "/api/v1/gauge-studies/"+id+"/readings", `{"value_mm":10}`); status != http.StatusConflict {
		t.Errorf("a reading too many: %d", status)
	}
	if study = b.want(http.MethodPost, "/api/v1/gauge-studies/"+id+"/undo", ""); study["next"] != 3.0 || study["result"] != nil {
		t.Errorf("after undoing: %v", study)
	}
	if list := b.list("/api/v1/instrument-cards"); !strings.Contains(list, `"code":"G1"`) {
		t.Error(list)
	}
	if status, _ := b.call(http.MethodGet, "/api/v1/gauge-studies/nothing", ""); status != http.StatusNotFound {
		t.Errorf("a study of nothing: %d", status)
	}
}

// A table of readings is looked at, brought in, and what is left of a print goes out as one.
func TestTablesOfReadingsOverHTTP(t *testing.T) {
	b := serveEmpty(t)
	_, runs := b.twoPrints()
	sheet := b.want(http.MethodGet, "/api/v1/runs/"+runs[0], "")
	code := sheet["specimens"].([]any)[0].(map[string]any)["code"].(string)
	piece := sheet["pieces"].([]any)[0].(map[string]any)["id"].(string)
	var cards []struct {
		Version string `json:"features_version"`
	}
	if err := json.Unmarshal([]byte(b.list("/api/v1/pieces")), &cards); err != nil {
		t.Fatal(err)
	}
	b.want(http.MethodPut, "/api/v1/pieces/"+piece+"/features", fmt.Sprintf(`{"version":%q,"features":[{"piece_id":%q,"kind":"dimension","name":"Base","nominal_mm":20,"axis":"x","face":"outer","rungs_mm":[],"place":""}]}`, cards[0].Version, piece))
	tool := b.want(http.MethodPost, "/api/v1/instruments", `{"name":"Caliper","resolution_mm":0.01,"reference_u_mm":0.01}`)["id"].(string)
	blank, header := b.text("/api/v1/runs/" + runs[0] + "/to-read.csv")
	if !strings.HasPrefix(blank, "specimen,feature,") || !strings.HasPrefix(header.Get("Content-Type"), "text/csv") {
		t.Errorf("%.80q %v", blank, header)
	}
	looked := b.want(http.MethodPost, "/api/v1/reading-previews", fmt.Sprintf(`{"text":"specimen,feature,value_mm\n%s,charm,3"}`, code))
	if looked["refused"] != 1.0 || looked["kept"] != 0.0 {
		t.Errorf("%v", looked)
	}
	if !strings.Contains(blank, code+",Base,20,") {
		t.Errorf("%q", blank)
	}
	table := fmt.Sprintf(`{"text":"specimen;feature;value_mm\n%s;base;20,04\n%s;base;2,004","instrument_id":%q}`, code, code, tool)
	if kept := b.want(http.MethodPost, "/api/v1/readings", table); kept["kept"] != 1.0 || kept["questioned"] != 1.0 {
		t.Errorf("%v", kept)
	}
	if read := b.want(http.MethodGet, "/api/v1/runs/"+runs[0], "")["readings"].([]any); len(read) != 1 || read[0].(map[string]any)["value_mm"] != 20.04 {
		t.Errorf("%v", read)
	}
	if again := b.want(http.MethodPost, "/api/v1/reading-previews", table); again["questioned"] != 2.0 || again["kept"] != 0.0 {
		t.Errorf("brought in twice: %v", again)
	}
	if left, _ := b.text("/api/v1/runs/" + runs[0] + "/to-read.csv"); strings.Contains(left, code+",Base") {
		t.Errorf("%q", left)
	}
	if status, said := b.call(http.MethodPost, "/api/v1/readings", `{"text":"nonsense"}`); status != http.StatusUnprocessableEntity || !strings.HasSuffix(location(said), "text") {
		t.Errorf("no table: %d %v", status, said)
	}
	if status, said := b.call(http.MethodPost, "/api/v1/reading-previews", `{"text":""}`); status != http.StatusUnprocessableEntity || !strings.HasSuffix(location(said), "text") {
		t.Errorf("an empty table: %d %v", status, said)
	}
}
