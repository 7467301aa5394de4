package main

import (
	"encoding/json"
	"fmt"
	"io"
	"net/http"
	"strings"
	"testing"
)

// A print is driven by a feed and the program is killed without warning, again
// and again: what was answered to the device is there, and its true state with it.
func TestKillDuringAPrintKeepsItsTrueState(t *testing.T) {
	binary := build(t)
	data := t.TempDir()
	cmd, address := start(t, binary, data)
	run, token := prepare(t, address)
	layer, seq := int64(0), 0
	word := func(state string) (status int, answer string) {
		seq++
		line := fmt.Sprintf("boot %d %d %s %d 400", seq, 1_800_000_000_000+int64(seq)*1000, state, layer)
		return send(t, address, token, line)
	}
	steps := []struct{ says, want string }{{"printing", "printing"}, {"printing", "printing"}, {"paused", "paused"}, {"printing", "printing"}, {"finished", "finished"}}
	for i, s := range steps {
		layer += 7
		if status, answer := word(s.says); status != http.StatusOK {
			t.Fatalf("%s: %d %s", s.says, status, answer)
		}
		if err := cmd.Process.Kill(); err != nil {
			t.Fatal(err)
		}
		_ = cmd.Wait() // it was killed
		cmd, address = start(t, binary, data)
		var live struct {
			State string
			Feed  struct{ Layer, Seq int64 }
		}
		get(t, address+"/api/v1/runs/"+run+"/live", &live)
		if live.State != s.want || live.Feed.Layer != layer || live.Feed.Seq != int64(seq) {
			t.Errorf("after step %d (%s): %+v, want %s at layer %d", i, s.says, live, s.want, layer)
		}
		// The device does not know whether its word arrived, and says it again.
		seq--
		if status, answer := word(s.says); status != http.StatusOK || !strings.Contains(answer, `"doubled":1`) {
			t.Errorf("said again: %d %s", status, answer)
		}
	}
}

// prepare fills an empty record by its own calls until a print waits for its
// machine; it gives the run and the token of the machine's feed.
func prepare(t *testing.T, address string) (run, token string) {
	t.Helper()
	id := func(path, body, key string) string {
		var out map[string]json.RawMessage
		post(t, address+"/api/v1/"+path, "application/json", body, &out)
		entry := out
		if key != "" {
			entry = nil
			if err := json.Unmarshal(out[key], &entry); err != nil {
				t.Fatal(err)
			}
		}
		var id string
		if err := json.Unmarshal(entry["id"], &id); err != nil {
			t.Fatal(err)
		}
		return id
	}
	prices := `"price_discount":0,"price_shipping":0,"price_tax_pct":0,"price_tax_included":true`
	machine := id("machines", `{"name":"Ossik 7","maker":"","light_engine":"masked_lcd","width_mm":160,"depth_mm":90,"height_mm":160,"px_x":4000,"px_y":2250,"dial_step_s":0.1,
		"lift":[{"mm":6,"mm_min":60}],"retract":[{"mm":6,"mm_min":60}],"wait_before_s":0,"wait_after_s":0,"wait_lift_s":0,"start_s":0,"end_s":0,"power_w":50,
		"price_extras":0,"supplied_by":"","notes":"",`+prices+`}`, "machine")
	resin := id("resins", `{"name":"Plain Grey","maker":"","family":"","colour":"#555555","bottle_ml":1000,"density_g_ml":1.1,"price_list":30,"notes":"",`+prices+`}`, "resin")
	profile := id("profiles", fmt.Sprintf(`{"machine_id":%q,"resin_id":%q,"layer_um":50,"exposure_s":2.5,"bottom_layers":5,"bottom_exposure_s":30,"transition_layers":0,
		"antialiasing":"none","basis":"default","sealed_name":"","note":""}`, machine, resin), "")
	var usual json.RawMessage
	get(t, address+"/api/v1/coupons/usual", &usual)
	piece := id("coupons", fmt.Sprintf(`{"name":"Step coupon","params":%s}`, usual), "piece")
	run = id("run-preparations", fmt.Sprintf(`{"machine_id":%q,"profile_id":%q,"pieces":[{"piece_id":%q,"copies":2}]}`, machine, profile, piece), "run")
	var made struct{ Token string }
	post(t, address+"/api/v1/devices", "application/json", fmt.Sprintf(`{"name":"Feed","kind":"printer","machine_id":%q}`, machine), &made)
	return run, made.Token
}

func post(t *testing.T, url, kind, body string, out any) {
	t.Helper()
	res, err := http.Post(url, kind, strings.NewReader(body))
	if err != nil {
		t.Fatal(err)
	}
	defer func() { _ = res.Body.Close() }()
	if res.StatusCode != http.StatusOK {
		text, _ := io.ReadAll(res.Body) // shown as far as it came
		t.Fatalf("%s: %d %s", url, res.StatusCode, text)
	}
	if err := json.NewDecoder(res.Body).Decode(out); err != nil {
		t.Fatal(err)
	}
}

func send(t *testing.T, address, token, line string) (int, string) {
	t.Helper()
	req, err := http.NewRequest(http.MethodPost, address+"/api/v1/feed", strings.NewReader(line))
	if err != nil {
		t.Fatal(err)
	}
	req.Header.Set("Authorization", "Bearer "+token)
	req.Header.Set("Content-Type", "text/plain")
	res, err := http.DefaultClient.Do(req)
	if err != nil {
		t.Fatal(err)
	}
	defer func() { _ = res.Body.Close() }()
	text, err := io.ReadAll(res.Body)
	if err != nil {
		t.Fatal(err)
	}
	return res.StatusCode, string(text)
}

func get(t *testing.T, url string, out any) {
	t.Helper()
	res, err := http.Get(url)
	if err != nil {
		t.Fatal(err)
	}
	defer func() { _ = res.Body.Close() }()
	if err := json.NewDecoder(res.Body).Decode(out); err != nil {
		t.Fatal(err)
	}
}
