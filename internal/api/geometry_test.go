package api

import (
	"bytes"
	"context"
	"fmt"
	"mime/multipart"
	"net/http"
	"slices"
	"sort"
	"strings"
	"testing"

	"ojime/internal/core/coupon"
	"ojime/internal/core/mesh"
)

// form sends fields and, where data is not nil, a file.
func (b client) form(path string, data []byte, fields map[string]string) (int, map[string]any) {
	b.t.Helper()
	var body bytes.Buffer
	form := multipart.NewWriter(&body)
	if data != nil {
		part, err := form.CreateFormFile("file", "body.bin")
		if err != nil {
			b.t.Fatal(err)
		}
		if _, err := part.Write(data); err != nil {
			b.t.Fatal(err)
		}
	}
	for name, value := range fields {
		if err := form.WriteField(name, value); err != nil {
			b.t.Fatal(err)
		}
	}
	if err := form.Close(); err != nil {
		b.t.Fatal(err)
	}
	req, err := http.NewRequest(http.MethodPost, b.URL+path, &body)
	if err != nil {
		b.t.Fatal(err)
	}
	req.Header.Set("Content-Type", form.FormDataContentType())
	return b.do(req)
}

// cube of 12 mm in three formats.
func cubes(t *testing.T) map[string][]byte {
	t.Helper()
	made, err := coupon.Make(coupon.Params{Calipers: true})
	if err != nil {
		t.Fatal(err)
	}
	threeMF, err := mesh.Write3MF([]mesh.Object{{Name: "c", Triangles: made.Triangles}}, []mesh.Item{{Pose: mesh.Pose{Scale: 1}}})
	if err != nil {
		t.Fatal(err)
	}
	obj := "v 0 0 0\nv 12 0 0\nv 12 12 0\nv 0 12 0\nv 0 0 12\nv 12 0 12\nv 12 12 12\nv 0 12 12\n" +
		"f 4 3 2 1\nf 5 6 7 8\nf 1 2 6 5\nf 2 3 7 6\nf 3 4 8 7\nf 4 1 5 8\n"
	return map[string][]byte{"stl_binary": mesh.WriteSTL(made.Triangles), "3mf": threeMF, "obj": []byte(obj)}
}

func TestMeshProfileKeepsItsContract(t *testing.T) {
	b := serveEmpty(t)
	want := []string{"bounds_mm", "format", "layers", "nonmanifold_edges", "open_edges", "shells", "signed_volume_ml", "slice_volume_ml", "surface_mm2", "triangles", "warnings"}
	for format, data := range cubes(t) {
		status, got := b.form("/api/v1/calc/mesh/profile", data, map[string]string{"layer_um": "50"})
		if status != http.StatusOK || got["format"] != format {
			t.Fatalf("%s: status %d: %v", format, status, got)
		}
		var keys []string
		for k := range got {
			if k != "$schema" {
				keys = append(keys, k)
			}
		}
		sort.Strings(keys)
		if !slices.Equal(keys, want) {
			t.Errorf("%s: fields %v, want %v", format, keys, want)
		}
		layers := got["layers"].([]any)
		first := layers[0].(map[string]any)
		if first["area_mm2"].(float64) <= 0 || first["perimeter_mm"].(float64) <= 0 || (format == "obj") != (len(layers) == 240) {
			t.Errorf("%s: %d layers, the first %v", format, len(layers), first)
		}
		if list, ok := got["warnings"].([]any); !ok || len(list) != 0 {
			t.Errorf("%s: warnings %v", format, got["warnings"])
		}
	}
}

// A mesh without warnings has an empty list of them, never null.
func TestPreviewOfAWholeMesh(t *testing.T) {
	b := serveEmpty(t)
	status, got := b.form("/api/v1/meshes/inspect", cubes(t)["3mf"], nil)
	piece, _ := got["piece"].(map[string]any)
	if warnings, ok := piece["mesh_warnings"].([]any); status != http.StatusOK || !ok || len(warnings) != 0 {
		t.Errorf("status %d: warnings %v", status, piece["mesh_warnings"])
	}
}

func TestMeshProfileNamesNonsense(t *testing.T) {
	b := serveEmpty(t)
	whole := cubes(t)["stl_binary"]
	for _, c := range []struct {
		name, layer string
		data        []byte
		where, says string
	}{
		{"no file", "50", nil, "file", ""},
		{"no layer", "", whole, "layer_um", ""},
		{"a layer of 0", "0", whole, "layer_um", "above 0"},
		{"a layer below 0", "-50", whole, "layer_um", "above 0"},
		{"a layer of NaN", "NaN", whole, "layer_um", ""},
		{"a word for a layer", "thin", whole, "layer_um", ""},
		{"millions of layers", "0.0001", whole, "layer_um", "layers"},
		{"cut off", "50", whole[:len(whole)-7], "file", "triangle"},
		{"a zip that is none", "50", []byte("PK\x03\x04 and so on"), "file", "3MF"},
		{"an empty file", "50", []byte{}, "file", "empty"},
	} {
		fields := map[string]string{}
		if c.layer != "" {
			fields["layer_um"] = c.layer
		}
		status, got := b.form("/api/v1/calc/mesh/profile", c.data, fields)
		detail, _ := got["detail"].(string)
		if status < 400 || status >= 500 || location(got) != c.where || !strings.Contains(detail, c.says) {
			t.Errorf("%s: status %d at %q: %v", c.name, status, location(got), detail)
		}
	}
}

func TestProgressIsToldAndEnds(t *testing.T) {
	var j jobs
	report, done := j.begin("a")
	report("slicing", 0.4)
	if got := j.state("a"); got.Stage != "slicing" || got.Share != 0.4 {
		t.Errorf("%+v", got)
	}
	done()
	if got := j.state("a"); got.Stage != "" {
		t.Errorf("after the end: %+v", got)
	}
	if report, done := j.begin(""); report != nil {
		t.Error("a task that nobody asks after has a report")
	} else {
		done()
	}
	for _, gone := range []error{mesh.ErrStopped, context.Canceled} {
		if got := problem(fmt.Errorf("read: %w", gone)); !strings.Contains(got.Error(), "topped") {
			t.Errorf("stopping reads %v", got)
		}
	}
}

func TestAPlateOverHTTP(t *testing.T) {
	b := serveEmpty(t)
	id := func(kind, body string) string {
		t.Helper()
		status, out := b.call(http.MethodPost, "/api/v1/"+kind, body)
		if status != http.StatusOK {
			t.Fatalf("%s: status %d: %v", kind, status, out)
		}
		for _, inner := range []string{"plate", "machine", "resin", "piece"} {
			if v, there := out[inner].(map[string]any); there {
				out = v
				break
			}
		}
		return out["id"].(string)
	}
	machine := id("machines", strings.Replace(machineBody, "%q", `"Ossik"`, 1))
	resin := id("resins", `{"name":"Grey","maker":"","family":"","colour":"#777","bottle_ml":1000,"density_g_ml":1.1,"price_list":20,"price_discount":0,"price_shipping":0,"price_tax_pct":0,"price_tax_included":true,"notes":""}`)
	profile := id("profiles", `{"machine_id":"`+machine+`","resin_id":"`+resin+`","layer_um":50,"exposure_s":2,"bottom_layers":4,"bottom_exposure_s":30,"transition_layers":0,"antialiasing":"","basis":"default","sealed_name":"","note":""}`)
	piece := id("coupons", `{"name":"Small","params":{"number":1,"posts_mm":[0.2,0.3],"walls_mm":[],"slots_mm":[],"holes_mm":[],"strokes_mm":[],"clearances_mm":[],"calipers":true,"staircase":false,"ramp":false,"dome":false}}`)
	plate := `{"name":"Night","machine_id":"` + machine + `","profile_id":"` + profile + `","margin_mm":2,"spacing_mm":2,"overlap_allowed":false,"drip_ml":3,"liquid_ratio":1,"software":""}`
	status, packed := b.call(http.MethodPost, "/api/v1/pack", `{"plate":`+plate+`,"placements":[],"more":{"piece_id":"`+piece+`","copies":3,"scale_pct":100}}`)
	if status != http.StatusOK || len(packed["placements"].([]any)) != 3 {
		t.Fatalf("pack: status %d: %v", status, packed)
	}
	plateID := id("plates", `{"plate":`+plate+`,"placements":[{"piece_id":"`+piece+`","scale_pct":100,"x_mm":40,"y_mm":40,"turn_deg":0,"number":7}]}`)
	for path, kind := range map[string]string{
		"/api/v1/plates/" + plateID + "/export?format=3mf":                           "model/3mf",
		"/api/v1/plates/" + plateID + "/export?format=stl":                           "model/stl",
		"/api/v1/pieces/" + piece + "/export?number=12":                              "model/stl",
		"/api/v1/pieces/" + piece + "/view.stl":                                      "model/stl",
		"/api/v1/pieces/" + piece + "/picture.png":                                   "image/png",
		"/api/v1/specimens/S-001-01/qr.png?url=http%3A%2F%2F127.0.0.1%3A8420%2Fruns": "image/png",
	} {
		body, header := b.text(path)
		if header.Get("Content-Type") != kind || len(body) < 100 {
			t.Errorf("%s: %s, %d bytes", path, header.Get("Content-Type"), len(body))
		}
		if strings.HasPrefix(kind, "model/") {
			if _, err := mesh.Read([]byte(body)); err != nil {
				t.Errorf("%s does not read back: %v", path, err)
			}
		}
	}
	for path, where := range map[string]string{
		"/api/v1/plates/nothing":                                    "",
		"/api/v1/specimens/S-9-9":                                   "",
		"/api/v1/specimens/S-1/qr.png?url=javascript%3Aalert(1)":    "url",
		"/api/v1/pieces/" + piece + "/slice?layer_um=50&layer=9999": "layer",
	} {
		status, got := b.call(http.MethodGet, path, "")
		if status < 400 || status >= 500 || location(got) != where {
			t.Errorf("%s: status %d at %q", path, status, location(got))
		}
	}
	run, _ := b.call(http.MethodPost, "/api/v1/run-preparations", `{"machine_id":"`+machine+`","plate_id":"`+plateID+`","profile_id":"`+profile+`"}`)
	if run != http.StatusOK {
		t.Fatalf("prepare: status %d", run)
	}
	status, list := b.call(http.MethodGet, "/api/v1/specimens/S-001-01", "")
	runID, _ := list["specimen"].(map[string]any)["run_id"].(string)
	if status != http.StatusOK || runID == "" {
		t.Fatalf("specimen: status %d: %v", status, list)
	}
	for _, step := range []struct{ path, body, state string }{
		{"preflight", `{"item":"vat","state":"skipped"}`, "prepared"}, {"preflight/skip", `{"reason":"a test"}`, "prepared"}, {"events", `{"at_ms":0,"kind":"start","note":""}`, "printing"},
		{"events", `{"at_ms":0,"kind":"top_up","ml":5,"note":""}`, "printing"}, {"events", `{"at_ms":0,"kind":"finish","note":"","confirmed":true}`, "finished"},
	} {
		status, live := b.call(http.MethodPost, "/api/v1/runs/"+runID+"/"+step.path, step.body)
		if status != http.StatusOK || live["state"] != step.state {
			t.Errorf("%s %s: status %d, %v", step.path, step.body, status, live["state"])
		}
	}
	if status, got := b.call(http.MethodPost, "/api/v1/runs/"+runID+"/events", `{"at_ms":0,"kind":"pause","note":""}`); status != http.StatusUnprocessableEntity || location(got) != "kind" {
		t.Errorf("a pause after the end: status %d at %q", status, location(got))
	}
	status, found := b.call(http.MethodGet, "/api/v1/runs/"+runID+"/diagnosis?symptom=warp", "")
	if causes, _ := found["result"].(map[string]any)["causes"].([]any); status != http.StatusOK || len(causes) < 2 {
		t.Errorf("diagnosis: status %d: %v", status, found)
	}
}
