package api

import (
	"fmt"
	"net/http"
	"strings"
	"testing"
)

// Readers, prices, equipment, budget and texts over HTTP: kept, refused by field, changed against a version.
func TestReadersAndMoneyOverHTTP(t *testing.T) {
	b := serveEmpty(t)
	review, runs := b.twoPrints()
	for _, run := range runs {
		b.judged(run)
	}
	machine := b.want(http.MethodGet, "/api/v1/runs/"+runs[0], "")["machine"].(map[string]any)["id"]
	refused := func(method, path, body, field string) {
		t.Helper()
		if status, answer := b.call(method, path, body); status != http.StatusUnprocessableEntity || location(answer) != field {
			t.Errorf("%s %s %s: %d at %q, not %q", method, path, body, status, location(answer), field)
		}
	}
	refused(http.MethodPost, review+"/readers", `{"example":"nobody"}`, "example")
	reader := b.want(http.MethodPost, review+"/readers", `{"example":"hero"}`)
	at := "/api/v1/readers/" + reader["id"].(string)
	body := func(rest string) string { return `{"version":1,"name":"One who paints","about":"",` + rest + `}` }
	refused(http.MethodPut, at, body(`"criteria":[]`), "criteria")
	refused(http.MethodPut, at, body(`"criteria":[{"measure":"failures","name":"F","weight":1,"worst":3,"best":3}]`), "criteria[0].best")
	b.want(http.MethodPut, at, body(`"criteria":[{"measure":"failures","name":"F","weight":1,"worst":30,"best":0}]`))
	if status, _ := b.call(http.MethodPut, at, body(`"criteria":[{"measure":"failures","name":"F","weight":1,"worst":30,"best":0}]`)); status != http.StatusConflict {
		t.Errorf("a stale reader: %d", status)
	}
	sheet := b.want(http.MethodGet, review+"/readers", "")
	if list := sheet["readers"].([]any); len(list) != 1 || list[0].(map[string]any)["reader"].(map[string]any)["name"] != "One who paints" {
		t.Errorf("%v", sheet["readers"])
	}
	b.want(http.MethodPost, at+"/taking-back", `{"why":"nobody paints"}`)

	price := func(rest string) string {
		return fmt.Sprintf(`{"machine_id":%q,"day":"2026-03-01","state":"list","tax_included":true%s}`, machine, rest)
	}
	refused(http.MethodPost, "/api/v1/prices", price(`,"source":" "`), "source")
	refused(http.MethodPost, "/api/v1/prices", price(`,"source":"x","amount":-1`), "amount")
	refused(http.MethodPost, "/api/v1/prices", price(`,"source":"x","until_day":"2026-02-01"`), "until_day")
	kept := b.want(http.MethodPost, "/api/v1/prices", price(`,"source":"a shop","amount":400,"shipping":0`))
	refused(http.MethodPost, "/api/v1/equipment", fmt.Sprintf(`{"machine_id":%q,"item":"a filter","need":"perhaps"}`, machine), "need")
	b.want(http.MethodPost, "/api/v1/equipment", fmt.Sprintf(`{"machine_id":%q,"item":"a filter","need":"to_buy","amount":30}`, machine))
	refused(http.MethodPut, review+"/budget", `{"version":0,"pieces_per_year":0,"years":1,"resale_pct":0,"upkeep":[]}`, "pieces_per_year")
	b.want(http.MethodPut, review+"/budget", `{"version":0,"pieces_per_year":100,"years":2,"resale_pct":0,"upkeep":[]}`)
	if status, _ := b.call(http.MethodPut, review+"/budget", `{"version":0,"pieces_per_year":100,"years":2,"resale_pct":0,"upkeep":[]}`); status != http.StatusConflict {
		t.Errorf("a stale budget: %d", status)
	}
	money := b.want(http.MethodGet, review+"/money", "")
	if says := money["prices"].(map[string]any)["machines"].([]any)[0].(map[string]any)["says"].(string); !strings.HasPrefix(says, "430 ") {
		t.Errorf("%s", says)
	}
	b.want(http.MethodPost, "/api/v1/prices/"+kept["id"].(string)+"/taking-back", `{"why":"it was another"}`)
	texts := b.want(http.MethodGet, review+"/texts", "")
	if len(texts["figures"].([]any)) == 0 {
		t.Error("no live figure is offered")
	}
}
