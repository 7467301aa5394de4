package api

import (
	"encoding/json"
	"fmt"
	"net/http"
	"strings"
	"testing"
)

func TestRoomsOverHTTP(t *testing.T) {
	b := serveEmpty(t)
	machine := b.want(http.MethodPost, "/api/v1/machines", fmt.Sprintf(machineBody, "Ossik 7"))["machine"].(map[string]any)["id"].(string)
	rooms := b.want(http.MethodPost, "/api/v1/rooms", `{"name":"Garage","room_temp_c":19.5,"humidity_pct":55,"heater_on":null,"note":""}`)
	room := rooms["rooms"].([]any)[0].(map[string]any)["room"].(map[string]any)
	if len(rooms["nowhere"].([]any)) != 1 || room["code"] != "K1" || room["heater_on"] != nil {
		t.Fatalf("%v", rooms)
	}
	for field, body := range map[string]string{
		"room_temp_c": `{"name":"Oven","room_temp_c":900}`, "humidity_pct": `{"name":"Pond","humidity_pct":101}`, "name": `{"name":"garage"}`,
	} {
		if status, said := b.call(http.MethodPost, "/api/v1/rooms", body); status != http.StatusUnprocessableEntity || !strings.HasSuffix(location(said), field) {
			t.Errorf("%s: %d %v", field, status, said)
		}
	}
	placed := b.want(http.MethodPost, "/api/v1/machines/"+machine+"/room", `{"room_id":"`+room["id"].(string)+`","all_along":true}`)
	if len(placed["nowhere"].([]any)) != 0 {
		t.Errorf("%v", placed)
	}
	expected := b.want(http.MethodGet, "/api/v1/room-expected?machine_id="+machine, "")
	if expected["room"] != "Garage" || expected["usual"].(map[string]any)["room_temp_c"] != 19.5 || expected["read"].(map[string]any)["room_temp_c"] != nil {
		t.Errorf("%v", expected)
	}
	if status, _ := b.call(http.MethodGet, "/api/v1/room-expected?machine_id=nobody", ""); status != http.StatusNotFound {
		t.Errorf("of no machine: %d", status)
	}
	if status, said := b.call(http.MethodPost, "/api/v1/rooms/"+room["id"].(string)+"/retirement", `{"version":1}`); status != http.StatusConflict || !strings.Contains(said["detail"].(string), "still stands") {
		t.Errorf("with a machine in it: %d %v", status, said)
	}
	if status, _ := b.call(http.MethodPut, "/api/v1/rooms/"+room["id"].(string), `{"version":9,"name":"Garage"}`); status != http.StatusConflict {
		t.Errorf("a stale version: %d", status)
	}
}

func TestKindsOfPiecesOverHTTP(t *testing.T) {
	b := serveEmpty(t)
	b.want(http.MethodPut, "/api/v1/piece-kinds", `{"kind":"figure","checkpoints":[{"name":"Face","place":"front"}]}`)
	for field, body := range map[string]string{"checkpoints[1].name": `{"kind":"figure","version":1,"checkpoints":[{"name":"Face"},{"name":"face"}]}`, "kind": `{"kind":" ","checkpoints":[]}`} {
		if status, said := b.call(http.MethodPut, "/api/v1/piece-kinds", body); status != http.StatusUnprocessableEntity || !strings.HasSuffix(location(said), field) {
			t.Errorf("%s: %d %v", field, status, said)
		}
	}
	piece := b.importPiece("Guard")
	card := b.want(http.MethodPut, "/api/v1/pieces/"+piece+"/kind", `{"version":1,"kind":"Figure"}`)
	if card["piece"].(map[string]any)["kind"] != "Figure" || len(card["features"].([]any)) != 0 {
		t.Errorf("%v", card)
	}
}

func TestPhotographsOfUnitsOverHTTP(t *testing.T) {
	b := serveEmpty(t)
	machine := b.want(http.MethodPost, "/api/v1/machines", fmt.Sprintf(machineBody, "Ossik 7"))["machine"].(map[string]any)["id"].(string)
	path := "/api/v1/machines/" + machine + "/photographs"
	if status, said := b.form(path, stripedPNG(t), map[string]string{"shows": " "}); status != http.StatusUnprocessableEntity || !strings.HasSuffix(location(said), "shows") {
		t.Errorf("of nothing: %d %v", status, said)
	}
	if status, said := b.form(path, []byte("MZ a program"), map[string]string{"shows": "damage"}); status != http.StatusUnprocessableEntity || !strings.HasSuffix(location(said), "file") {
		t.Errorf("a program: %d %v", status, said)
	}
	if status, said := b.form(path, stripedPNG(t), map[string]string{"shows": "damage", "note": "a dent"}); status != http.StatusOK {
		t.Fatalf("%d %v", status, said)
	}
	var kept []struct{ ID, Shows string }
	text, _ := b.text(path)
	if err := json.Unmarshal([]byte(text), &kept); err != nil || len(kept) != 1 || kept[0].Shows != "damage" {
		t.Fatalf("%v, %v", kept, err)
	}
	one := "/api/v1/unit-photographs/" + kept[0].ID
	for _, size := range []string{"large", "small", "original"} {
		if text, header := b.text(one + "/files/" + size); len(text) < 100 || !strings.HasPrefix(header.Get("Content-Type"), "image/") {
			t.Errorf("%s: %d bytes, %v", size, len(text), header)
		}
	}
	if status, _ := b.call(http.MethodPost, one+"/taking-back", `{"why":"","erase":false}`); status != http.StatusUnprocessableEntity {
		t.Errorf("without a reason: %d", status)
	}
	if status, _ := b.call(http.MethodPost, one+"/taking-back", `{"why":"another machine","erase":true}`); status != http.StatusOK {
		t.Errorf("taken back: %d", status)
	}
	if status, _ := b.call(http.MethodGet, one+"/files/small", ""); status != http.StatusNotFound {
		t.Errorf("erased, its file answers %d", status)
	}
	id := kept[0].ID
	if status, _ := b.call(http.MethodPost, "/api/v1/taken-back/unit_photograph/"+id+"/putting-back", `{"why":""}`); status != http.StatusConflict {
		t.Errorf("put back without files: %d", status)
	}
	if status, said := b.call(http.MethodPost, "/api/v1/taken-back/charm/"+id+"/putting-back", `{"why":""}`); status != http.StatusUnprocessableEntity || !strings.HasSuffix(location(said), "kind") {
		t.Errorf("of no kind: %d %v", status, said)
	}
}
