package api

import (
	"fmt"
	"net/http"
	"strings"
	"testing"
)

// A sitting first, then scores in it; without one, or off its scale, nothing is taken.
func TestASittingOverHTTP(t *testing.T) {
	b := serveEmpty(t)
	piece := b.importPiece("Pyramid")
	ref := b.want(http.MethodPost, "/api/v1/references", fmt.Sprintf(`{"name":"Pewter","piece_id":%q,"made_by":"casting","provenance":"a mould","copies":1}`, piece))
	of, copies := ref["reference"].(map[string]any)["id"].(string), ref["specimens"].([]any)
	specimen := copies[0].(map[string]any)["id"].(string)
	if none := b.want(http.MethodGet, "/api/v1/sittings/latest", ""); none["sitting"] != nil {
		t.Errorf("before the first: %v", none)
	}
	if scales := b.list("/api/v1/rating-scales"); !strings.Contains(scales, `"key":"edges"`) || strings.Contains(scales, `"own":true`) {
		t.Errorf("%.200s", scales)
	}
	for name, c := range map[string]struct{ text, field string }{
		"under no light":        {`{"rater":"Marn","station":"in_hand","stage":"raw","light":"","scales":["edges"]}`, "light"},
		"from nowhere":          {`{"rater":"Marn","station":"the moon","stage":"raw","light":"lamp","scales":["edges"]}`, "station"},
		"under a blunt loupe":   {`{"rater":"Marn","station":"loupe","stage":"raw","light":"lamp","magnification":1,"scales":["edges"]}`, "magnification"},
		"a loupe of no power":   {`{"rater":"Marn","station":"loupe","stage":"raw","light":"lamp","scales":["edges"]}`, "magnification"},
		"of nothing":            {`{"rater":"Marn","station":"in_hand","stage":"raw","light":"lamp","scales":[]}`, "scales"},
		"on a scale not there":  {`{"rater":"Marn","station":"in_hand","stage":"raw","light":"lamp","scales":["charm"]}`, "scales[0]"},
		"of a stage not a word": {`{"rater":"Marn","station":"in_hand","stage":"dusted","light":"lamp","scales":["edges"]}`, "stage"},
	} {
		if status, wrong := b.call(http.MethodPost, "/api/v1/sittings", c.text); status != http.StatusUnprocessableEntity || !strings.HasSuffix(location(wrong), c.field) {
			t.Errorf("%s: %d %v", name, status, wrong)
		}
	}
	sitting := b.want(http.MethodPost, "/api/v1/sittings", `{"rater":"Marn","station":"in_hand","stage":"raw","light":"a lamp","scales":["edges"]}`)["id"].(string)
	if now := b.want(http.MethodGet, "/api/v1/sittings/latest", "")["sitting"].(map[string]any); now["id"] != sitting || now["light"] != "a lamp" {
		t.Errorf("%v", now)
	}
	score := func(sitting, scale string, score int) string {
		return fmt.Sprintf(`{"sitting_id":%q,"of_id":%q,"specimen_id":%q,"scale":%q,"score":%d}`, sitting, of, specimen, scale, score)
	}
	for field, text := range map[string]string{"score": score(sitting, "edges", 5), "scale": score(sitting, "charm", 1), "sitting_id": score("nobody", "edges", 1)} {
		if status, wrong := b.call(http.MethodPost, "/api/v1/ratings", text); status != http.StatusUnprocessableEntity || !strings.HasSuffix(location(wrong), field) {
			t.Errorf("%s: %d %v", field, status, wrong)
		}
	}
	if status, _ := b.call(http.MethodPost, "/api/v1/ratings", strings.Replace(score(sitting, "edges", 1), of, "nothing", 1)); status != http.StatusNotFound {
		t.Errorf("of nothing on record: %d", status)
	}
	b.want(http.MethodPost, "/api/v1/ratings", score(sitting, "edges", 3))
	sheet := b.want(http.MethodGet, "/api/v1/references/"+of, "")
	rated := sheet["ratings"].([]any)[0].(map[string]any)
	if rated["score"] != 3.0 || rated["sitting"].(map[string]any)["rater"] != "Marn" {
		t.Errorf("%v", rated)
	}
	back := "/api/v1/ratings/" + rated["id"].(string) + "/taking-back"
	if status, wrong := b.call(http.MethodPost, back, `{"why":""}`); status != http.StatusUnprocessableEntity || !strings.HasSuffix(location(wrong), "why") {
		t.Errorf("without a reason: %d %v", status, wrong)
	}
	b.want(http.MethodPost, back, `{"why":"the wrong one"}`)
	if status, _ := b.call(http.MethodPost, back, `{"why":"again"}`); status != http.StatusConflict {
		t.Errorf("twice: %d", status)
	}
}

func TestAScaleOfOnesOwnOverHTTP(t *testing.T) {
	b := serveEmpty(t)
	own := b.want(http.MethodPost, "/api/v1/rating-scales", `{"name":"Spring","anchors":["limp","tired","plain","lively","a bow"]}`)
	if own["own"] != true || len(own["anchors"].([]any)) != 5 || !strings.Contains(b.list("/api/v1/rating-scales"), "lively") {
		t.Errorf("%v", own)
	}
	for field, text := range map[string]string{"anchors": `{"name":"Give","anchors":["a","b"]}`, "name": `{"name":"Spring","anchors":["a","b","c","d","e"]}`} {
		if status, wrong := b.call(http.MethodPost, "/api/v1/rating-scales", text); status != http.StatusUnprocessableEntity || !strings.HasSuffix(location(wrong), field) {
			t.Errorf("%s: %d %v", field, status, wrong)
		}
	}
}
