package api

import (
	"bytes"
	"encoding/json"
	"fmt"
	"io"
	"mime/multipart"
	"net/http"
	"strings"
	"testing"

	"ojime/internal/core/mesh"
)

// want calls and demands success, and returns the answer.
func (b client) want(method, path, body string) map[string]any {
	b.t.Helper()
	status, out := b.call(method, path, body)
	if status != http.StatusOK {
		b.t.Fatalf("%s %s: status %d: %v", method, path, status, out)
	}
	return out
}

// text reads a file that is served.
func (b client) text(path string) (string, http.Header) {
	b.t.Helper()
	res, err := b.Client().Get(b.URL + path)
	if err != nil {
		b.t.Fatal(err)
	}
	defer func() { _ = res.Body.Close() }()
	raw, err := io.ReadAll(res.Body)
	if err != nil || res.StatusCode != http.StatusOK {
		b.t.Fatalf("%s: status %d (%v): %s", path, res.StatusCode, err, raw)
	}
	return string(raw), res.Header
}

func (b client) importPiece(name string) string {
	b.t.Helper()
	var body bytes.Buffer
	form := multipart.NewWriter(&body)
	part, err := form.CreateFormFile("file", "pyramid.stl")
	if err != nil {
		b.t.Fatal(err)
	}
	p, q, r, s := [3]float32{0, 0, 0}, [3]float32{20, 0, 0}, [3]float32{0, 20, 0}, [3]float32{0, 0, 12}
	if _, err := part.Write(mesh.WriteSTL([]mesh.Triangle{{p, r, q}, {p, q, s}, {q, r, s}, {r, p, s}})); err != nil {
		b.t.Fatal(err)
	}
	if err := form.WriteField("name", name); err != nil {
		b.t.Fatal(err)
	}
	if err := form.Close(); err != nil {
		b.t.Fatal(err)
	}
	req, err := http.NewRequest(http.MethodPost, b.URL+"/api/v1/pieces", &body)
	if err != nil {
		b.t.Fatal(err)
	}
	req.Header.Set("Content-Type", form.FormDataContentType())
	status, out := b.do(req)
	if status != http.StatusOK {
		b.t.Fatalf("import: status %d: %v", status, out)
	}
	piece := out["piece"].(map[string]any)
	if volume := piece["volume_ml"].(float64); volume < 0.7999 || volume > 0.8001 {
		b.t.Errorf("a pyramid of 0.8 ml has %v ml", volume)
	}
	return piece["id"].(string)
}

const machineBody = `{"name":%q,"maker":"","light_engine":"masked_lcd","width_mm":160,"depth_mm":90,"height_mm":160,"px_x":4000,"px_y":2250,"dial_step_s":0.1,
"lift":[{"mm":6,"mm_min":60}],"retract":[{"mm":6,"mm_min":60}],"wait_before_s":0,"wait_after_s":0,"wait_lift_s":0,"start_s":0,"end_s":0,"power_w":50,
"price_list":300,"price_discount":20,"price_shipping":0,"price_tax_pct":0,"price_tax_included":true,"price_extras":15,"supplied_by":"","notes":""}`

const runBody = `{"machine_id":%q,"resin_id":%q,"profile_id":%q,"pieces":[{"piece_id":%q,"copies":3}],"confirmed":true,"started_ms":1790000000000,"ended_ms":1790001800000,
"software":"Carver","software_estimate_s":1500,"resin_used_g":6,"attended_min":null,"room_temp_c":null,"resin_temp_c":%d,"film_clouded":false,
"orientation":"upright","supports":null,"wash_s":180,"cure_s":120,"surface":"raw","notes":""}`

// The whole job by script, as the interface does it.
func TestAReviewOverHTTP(t *testing.T) {
	b := serveEmpty(t)
	piece := b.importPiece("Pyramid")
	resin := b.want(http.MethodPost, "/api/v1/resins", `{"name":"Plain Grey","maker":"","family":"","colour":"#555555","bottle_g":1100,"density_g_ml":1.1,"price_list":30,
		"price_discount":0,"price_shipping":0,"price_tax_pct":0,"price_tax_included":true,"notes":""}`)
	if price := resin["price"].(map[string]any)["per_litre"].(float64); price < 29.999999 || price > 30.000001 {
		t.Errorf("1100 g at 1.1 g/ml for 30 is %v a litre", price)
	}
	resinID := resin["resin"].(map[string]any)["id"].(string)
	var machines, runs []string
	for i, name := range []string{"Ossik 7", "Grell Mini"} {
		card := b.want(http.MethodPost, "/api/v1/machines", fmt.Sprintf(machineBody, name))
		if paid := card["price"].(map[string]any)["paid"].(float64); paid != 295 {
			t.Errorf("300 − 20 + 15 is %v", paid)
		}
		id := card["machine"].(map[string]any)["id"].(string)
		machines = append(machines, id)
		profile := b.want(http.MethodPost, "/api/v1/profiles", fmt.Sprintf(`{"machine_id":%q,"resin_id":%q,"layer_um":50,"exposure_s":2.5,"bottom_layers":5,
			"bottom_exposure_s":30,"transition_layers":0,"antialiasing":"none","basis":"default","sealed_name":"","note":""}`, id, resinID))
		sheet := b.want(http.MethodPost, "/api/v1/runs", fmt.Sprintf(runBody, id, resinID, profile["id"], piece, 23+2*i))
		run := sheet["run"].(map[string]any)
		runs = append(runs, run["id"].(string))
		if run["layers"].(float64) != 240 || run["code"] != fmt.Sprintf("R-%03d", i+1) {
			t.Errorf("run %v", run)
		}
		specimens := sheet["specimens"].([]any)
		for _, s := range specimens {
			s.(map[string]any)["outcome"] = "whole"
		}
		body, err := json.Marshal(specimens)
		if err != nil {
			t.Fatal(err)
		}
		b.want(http.MethodPut, "/api/v1/runs/"+runs[i]+"/outcomes", string(body))
	}
	review := b.want(http.MethodPost, "/api/v1/reviews", fmt.Sprintf(`{"question":"Which?","readers":"All","under_test":[],"policy":"maker_default","disclosure":"Bought.",
		"verdict":"","not_tested":"","machine_ids":[%q,%q],"resin_ids":[%q],"piece_ids":[%q]}`, machines[0], machines[1], resinID, piece))
	ask := "/api/v1/comparison?side=%s&side=%s&question=failure&under_test=machine"
	comparison := b.want(http.MethodGet, fmt.Sprintf(ask, runs[0], runs[1]), "")
	first := comparison["audits"].([]any)[0].(map[string]any)
	if grade := first["result"].(map[string]any)["grade"]; grade != "not_comparable" || first["a"] != 1.0 || first["b"] != 0.0 {
		t.Errorf("one print a side is graded %v", grade)
	}
	if answer := comparison["answers"].([]any)[0].(string); !strings.Contains(answer, "0 of 3 specimens over 1 print") || !strings.Contains(answer, "whatever came out") {
		t.Errorf("none in three on both sides says %q", answer)
	}
	// Sides may also stand in one parameter, and a request that names too few says so.
	if again := b.want(http.MethodGet, fmt.Sprintf("/api/v1/comparison?side=%s%%3B%s&question=failure&under_test=machine", runs[0], runs[1]), ""); fmt.Sprint(again) != fmt.Sprint(comparison) {
		t.Error("sides in one parameter are another comparison")
	}
	// So may what is under test; each factor counts, however it is written.
	both := fmt.Sprintf("/api/v1/comparison?side=%s&side=%s&question=failure&under_test=", runs[0], runs[1])
	repeated, listed := b.want(http.MethodGet, both+"machine&under_test=resin", ""), b.want(http.MethodGet, both+"machine,resin", "")
	if fmt.Sprint(repeated) != fmt.Sprint(listed) || len(repeated["pairs"].([]any)) != 2 {
		t.Errorf("two factors under test: %v and %v", repeated["pairs"], listed["pairs"])
	}
	if status, wrong := b.call(http.MethodGet, "/api/v1/comparison?side="+runs[0], ""); status != http.StatusUnprocessableEntity || location(wrong) != "side" {
		t.Errorf("one side: %d %v", status, wrong)
	}
	at := "/api/v1/reviews/" + review["id"].(string)
	text, header := b.text(at + "/write-up.md")
	if !strings.Contains(text, "none seen; up to 85 %") || !strings.Contains(header.Get("Content-Disposition"), "review.md") {
		t.Errorf("write-up %s: %s", header, text)
	}
	for table, want := range map[string]string{"runs": "R-002,Grell Mini", "settings": "default", "readings": "run,specimen"} {
		if rows, _ := b.text(at + "/tables/" + table); !strings.Contains(rows, want) {
			t.Errorf("%s.csv: %s", table, rows)
		}
	}
	home := b.want(http.MethodGet, "/api/v1/bench", "")
	if cords := home["cords"].([]any); len(cords) != 2 {
		t.Errorf("cords %v", cords)
	}
	beads, _ := b.text("/api/v1/beads?from_ms=0&to_ms=4102444799999")
	if !strings.Contains(beads, `"shape":"whole"`) || strings.Count(beads, "run_id") != 2 {
		t.Errorf("beads %s", beads)
	}
	if page := b.want(http.MethodGet, "/api/v1/runs?most=1", ""); len(page["lines"].([]any)) != 1 || page["more"] != true {
		t.Errorf("a page of one run: %v", page)
	}
	if page := b.want(http.MethodGet, "/api/v1/runs?shape=ring", ""); len(page["lines"].([]any)) != 0 {
		t.Errorf("rings where nothing failed: %v", page)
	}
}

// A condition that is not there is not an answer; null is.
func TestARunWithABlankConditionIsRefused(t *testing.T) {
	b := serveEmpty(t)
	body := strings.Replace(fmt.Sprintf(runBody, "m", "r", "p", "x", 20), `"supports":null,`, "", 1)
	status, problem := b.call(http.MethodPost, "/api/v1/runs", body)
	if detail, _ := problem["detail"].(string); status != http.StatusUnprocessableEntity || !strings.Contains(detail, "supports") {
		t.Errorf("status %d: %v", status, problem)
	}
}
