package api

import (
	"encoding/json"
	"fmt"
	"net/http"
	"strings"
	"testing"

	"ojime/internal/work/dataset"
)

// judged says that every copy of a print came out whole.
func (b client) judged(run string) {
	b.t.Helper()
	sheet := b.want(http.MethodGet, "/api/v1/runs/"+run, "")
	specimens := sheet["specimens"].([]any)
	for _, s := range specimens {
		s.(map[string]any)["outcome"] = "whole"
	}
	body, err := json.Marshal(specimens)
	if err != nil {
		b.t.Fatal(err)
	}
	b.want(http.MethodPut, "/api/v1/runs/"+run+"/outcomes", string(body))
}

// A panel over HTTP: made of what the review offers, coded, sealed, voted on by links that open one ballot each,
// closed, and told in the comparison; what is refused says which field, and what is sealed tells nothing.
func TestAPanelOverHTTP(t *testing.T) {
	b := serveEmpty(t)
	review, runs := b.twoPrints()
	first := b.want(http.MethodGet, "/api/v1/runs/"+runs[0], "")
	machine, resin, piece := first["machine"].(map[string]any)["id"], first["resin"].(map[string]any)["id"], first["pieces"].([]any)[0].(map[string]any)["id"]
	other := b.want(http.MethodPost, "/api/v1/profiles", fmt.Sprintf(`{"machine_id":%q,"resin_id":%q,"layer_um":50,"exposure_s":2.9,"bottom_layers":5,
		"bottom_exposure_s":30,"transition_layers":0,"antialiasing":"none","basis":"default","sealed_name":"","note":""}`, machine, resin))["id"]
	runs[1] = b.want(http.MethodPost, "/api/v1/runs", fmt.Sprintf(runBody, machine, resin, other, piece, 24))["run"].(map[string]any)["id"].(string)
	for _, run := range runs {
		b.judged(run)
	}
	arms := b.want(http.MethodGet, review+"/panel-choices", "")["arms"].([]any)
	if len(arms) != 2 {
		t.Fatalf("%d set-ups", len(arms))
	}
	var said []string
	for _, a := range arms {
		arm := a.(map[string]any)
		copies := arm["specimens"].([]any)
		said = append(said, fmt.Sprintf(`{"profile_id":%q,"since":%q,"piece_id":%q,"item_ids":[%q]}`, arm["profile_id"], arm["since"], arm["piece_id"], copies[0].(map[string]any)["id"]))
	}
	panel := func(kind, question string, judges int) string {
		return fmt.Sprintf(`{"kind":%q,"shows":"specimens","question":%q,"stage":"raw","station":"in_hand","light":"a lamp","judges":%d,"arms":[%s]}`, kind, question, judges, strings.Join(said, ","))
	}
	of := review + "/panels"
	for _, c := range []struct{ body, field string }{
		{panel("beauty", "Which?", 2), "kind"}, {panel("preference", " ", 2), "question"}, {panel("odd_one_out", "Which?", 2), "arms"}, {strings.Replace(panel("preference", "Which?", 2), `"a lamp"`, `""`, 1), "light"},
	} {
		if status, answer := b.call(http.MethodPost, of, c.body); status != http.StatusUnprocessableEntity || location(answer) != c.field {
			t.Errorf("%s: %d at %q", c.field, status, location(answer))
		}
	}
	made := b.want(http.MethodPost, of, panel("preference", "Which is crisper?", 2))
	id := made["panel"].(map[string]any)["id"].(string)
	at := "/api/v1/panels/" + id
	if status, _ := b.call(http.MethodPost, at+"/sealing", ""); status != http.StatusUnprocessableEntity {
		t.Errorf("sealed without codes: %d", status)
	}
	behind := map[string]float64{}
	for _, item := range made["to_code"].([]any) {
		copied := item.(map[string]any)
		told := b.want(http.MethodPost, at+"/coding", fmt.Sprintf(`{"name":"Ilse","as":"reviewer","specimen":%q}`, copied["code"]))
		behind[told["code"].(string)] = copied["arm"].(float64)
	}
	sealed := b.want(http.MethodPost, at+"/sealing", "")
	if sealed["state"] != "voting" || sealed["shown"] != nil || sealed["opening"] != "" {
		t.Errorf("%v", sealed)
	}
	for i, line := range sealed["ballots"].([]any) {
		token := line.(map[string]any)["token"].(string)
		ballot := b.want(http.MethodGet, "/api/v1/ballots/"+token, "")
		codes := ballot["trials"].([]any)[0].([]any)
		place := 0
		if behind[codes[1].(string)] == 0 {
			place = 1
		}
		vote := fmt.Sprintf(`{"way":"link","answers":[{"place":%d,"sure":3}],"knew":false}`, place)
		if status, answer := b.call(http.MethodPost, "/api/v1/ballots/"+token, strings.Replace(vote, `"way"`, `"name":"ILSE","way"`, 1)); status != http.StatusUnprocessableEntity || location(answer) != "name" {
			t.Errorf("who coded votes: %d %v", status, answer)
		}
		if cast := b.want(http.MethodPost, "/api/v1/ballots/"+token, vote); cast["state"] != "cast" {
			t.Errorf("judge %d: %v", i+1, cast)
		}
		if status, _ := b.call(http.MethodPost, "/api/v1/ballots/"+token, strings.Replace(vote, "3", "4", 1)); status != http.StatusConflict {
			t.Errorf("judge %d twice: %d", i+1, status)
		}
		if qr, header := b.text(fmt.Sprintf("%s/ballots/%d/qr.png?url=http%%3A%%2F%%2F127.0.0.1%%3A8420", at, i+1)); !strings.HasPrefix(qr, "\x89PNG") || header.Get("Content-Type") != "image/png" {
			t.Error("no code to scan")
		}
	}
	if status, _ := b.call(http.MethodGet, "/api/v1/ballots/0123456789", ""); status != http.StatusNotFound {
		t.Errorf("a link that opens nothing: %d", status)
	}
	closed := b.want(http.MethodPost, at+"/closing", `{}`)
	shown := closed["shown"].(map[string]any)
	if closed["state"] != "closed" || len(shown["key"].([]any)) != 2 || !strings.HasPrefix(shown["grade"].(string), "blind: whoever coded did not vote; sealed on ") {
		t.Errorf("%v", shown)
	}
	compared := b.want(http.MethodGet, fmt.Sprintf("/api/v1/comparison?side=%s&side=%s&question=finish", runs[0], runs[1]), "")
	if rows := compared["panels"].([]any); len(rows) != 1 || rows[0].(map[string]any)["code"] != "V1" || rows[0].(map[string]any)["judges"] != 2.0 {
		t.Errorf("%v", rows)
	}
	if text, _ := b.text(review + "/tables/ballots"); strings.Count(text, "\n") != 3 || !strings.HasPrefix(text, "panel,question,looks_at") {
		t.Errorf("%s", text)
	}
	for _, table := range dataset.Names { // all that are offered can be had
		if text, header := b.text(review + "/tables/" + table); !strings.Contains(header.Get("Content-Disposition"), table+".csv") || !strings.Contains(text, ",") {
			t.Errorf("%s: %v", table, header)
		}
	}
	if status, _ := b.call(http.MethodPost, at+"/closing", `{}`); status != http.StatusConflict {
		t.Errorf("closed twice: %d", status)
	}
	if back := b.want(http.MethodPost, at+"/taking-back", `{"why":"a label showed"}`); back["state"] != "taken_back" {
		t.Errorf("%v", back["state"])
	}
}
