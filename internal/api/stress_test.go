package api

import (
	"encoding/json"
	"fmt"
	"net/http"
	"strings"
	"testing"
)

// A series is looked at before it begins, begun, tested and taken back over HTTP; what is
// wrong is named by its field, and another test than the next is refused.
func TestStressOverHTTP(t *testing.T) {
	b := serveEmpty(t)
	_, runs := b.twoPrints()
	at := "/api/v1/runs/" + runs[0]
	sheet := b.want(http.MethodGet, at, "")
	specimens := sheet["specimens"].([]any)
	for _, s := range specimens {
		s.(map[string]any)["outcome"] = "whole"
	}
	judged, err := json.Marshal(specimens)
	if err != nil {
		t.Fatal(err)
	}
	b.want(http.MethodPut, at+"/outcomes", string(judged))
	code := sheet["run"].(map[string]any)["code"].(string)
	kinds := b.list("/api/v1/stress-kinds")
	if !strings.Contains(kinds, `"drop"`) || !strings.Contains(kinds, `"a part broke off"`) {
		t.Errorf("%.200s", kinds)
	}
	body := func(levels, code string) string {
		return fmt.Sprintf(`{"series":{"kind":"drop","mode":"cumulative","name":"Falls","under":"onto oak","stage":"cured","levels":[%s],"anchors":["a","b","c","d","e"],"fails_from":3},"codes":[%q]}`, levels, code)
	}
	draft := b.want(http.MethodPost, "/api/v1/stress-drafts", body("200", code))
	if len(draft["members"].([]any)) == 0 || len(draft["refused"].([]any)) != 0 {
		t.Fatalf("%v", draft)
	}
	for field, text := range map[string]string{"series.levels[1]": body("200,100", code), "codes": body("200", "Q-7")} {
		if status, said := b.call(http.MethodPost, "/api/v1/stress-series", text); status != http.StatusUnprocessableEntity || !strings.HasSuffix(location(said), field) {
			t.Errorf("%s: %d %v", field, status, said)
		}
	}
	sheet = b.want(http.MethodPost, "/api/v1/stress-series", body("200,400", code))
	at = "/api/v1/stress-series/" + sheet["series"].(map[string]any)["id"].(string)
	step := sheet["steps"].([]any)[0].(map[string]any)
	seen := func(level, damage any) string {
		return fmt.Sprintf(`{"specimen_id":%q,"level":%v,"damage":%v,"part":"arm"}`, step["specimen"], level, damage)
	}
	if status, said := b.call(http.MethodPost, at+"/tests", seen(200, 9)); status != http.StatusUnprocessableEntity || !strings.HasSuffix(location(said), "damage") {
		t.Errorf("class 9: %d %v", status, said)
	}
	if status, _ := b.call(http.MethodPost, at+"/tests", seen(400, 1)); status != http.StatusConflict {
		t.Errorf("out of turn: %d", status)
	}
	if sheet = b.want(http.MethodPost, at+"/tests", seen(200, 3)); sheet["next"] != 1.0 || sheet["parts"].([]any)[0].(map[string]any)["part"] != "arm" {
		t.Errorf("%v", sheet["next"])
	}
	if sheet = b.want(http.MethodPost, at+"/undo", ""); sheet["next"] != 0.0 {
		t.Errorf("%v", sheet["next"])
	}
	if status, _ := b.call(http.MethodPost, at+"/undo", ""); status != http.StatusConflict {
		t.Errorf("nothing left to take back: %d", status)
	}
	member := sheet["members"].([]any)[0].(map[string]any)
	if sheet = b.want(http.MethodPost, at+"/specimens/"+member["id"].(string), `{"mass_g":2.5}`); sheet["members"].([]any)[0].(map[string]any)["mass_g"] != 2.5 {
		t.Errorf("%v", sheet["members"])
	}
	if status, said := b.call(http.MethodPost, at+"/specimens/"+member["id"].(string), `{"mass_g":0}`); status != http.StatusUnprocessableEntity || !strings.HasSuffix(location(said), "mass_g") {
		t.Errorf("no mass: %d %v", status, said)
	}
	if list := b.list("/api/v1/stress-series"); !strings.Contains(list, `"Falls"`) {
		t.Errorf("%.200s", list)
	}
	if status, _ := b.call(http.MethodGet, "/api/v1/stress-series/nothing", ""); status != http.StatusNotFound {
		t.Errorf("no such series: %d", status)
	}
}
