package api

import (
	"bytes"
	"fmt"
	"image"
	"image/color"
	"image/png"
	"net/http"
	"strings"
	"testing"
)

func stripedPNG(t *testing.T) []byte {
	t.Helper()
	in := image.NewGray(image.Rect(0, 0, 200, 120))
	for i := range in.Pix {
		in.SetGray(i%200, i/200, color.Gray{uint8(60 + 120*(i%200/10%2))})
	}
	var out bytes.Buffer
	if err := png.Encode(&out, in); err != nil {
		t.Fatal(err)
	}
	return out.Bytes()
}

// A photograph of a reference is sent, shown, measured, laid beside another, put on a sheet
// and erased.
func TestPhotographsOverHTTP(t *testing.T) {
	b := serveEmpty(t)
	piece := b.importPiece("Pyramid")
	ref := b.want(http.MethodPost, "/api/v1/references", fmt.Sprintf(`{"name":"Pewter","piece_id":%q,"made_by":"casting","provenance":"a mould","copies":2}`, piece))
	of := ref["reference"].(map[string]any)["id"].(string)
	fields := func(copied int) map[string]string {
		return map[string]string{"of_id": of, "specimen_id": ref["specimens"].([]any)[copied].(map[string]any)["id"].(string), "station": "loupe", "magnification": "2,5", "stage": "raw", "light": "a lamp"}
	}
	var ids []string
	for i := range 2 {
		status, kept := b.form("/api/v1/photographs", stripedPNG(t), fields(i))
		if status != http.StatusOK || kept["magnification"] != 2.5 || kept["mm_per_px"] != nil || kept["copy"] != float64(i+1) {
			t.Fatalf("%d %v", status, kept)
		}
		ids = append(ids, kept["id"].(string))
	}
	for field, wrong := range map[string]string{"magnification": "wide", "light": " ", "stage": "dusted", "specimen_id": "nobody"} {
		form := fields(0)
		form[field] = wrong
		if status, said := b.form("/api/v1/photographs", stripedPNG(t), form); status != http.StatusUnprocessableEntity || !strings.HasSuffix(location(said), field) {
			t.Errorf("%s: %d %v", field, status, said)
		}
	}
	if status, said := b.form("/api/v1/photographs", []byte("MZ a program"), fields(0)); status != http.StatusUnprocessableEntity || !strings.HasSuffix(location(said), "file") {
		t.Errorf("a program: %d %v", status, said)
	}
	one := "/api/v1/photographs/" + ids[0]
	for _, size := range []string{"large", "small", "original"} {
		if text, header := b.text(one + "/files/" + size); len(text) < 100 || !strings.HasPrefix(header.Get("Content-Type"), "image/") {
			t.Errorf("%s: %d bytes, %v", size, len(text), header)
		}
	}
	b.want(http.MethodPost, one+"/measures", `{"kind":"scale","from_x_px":0,"from_y_px":5,"to_x_px":200,"to_y_px":5,"known_mm":10,"known_u_mm":0}`)
	measured := b.want(http.MethodPost, one+"/measures", `{"kind":"period","from_x_px":5,"from_y_px":60,"to_x_px":195,"to_y_px":60}`)
	period := measured["measures"].([]any)[1].(map[string]any)
	if mm := period["size_mm"].(float64); mm < 0.99 || mm > 1.01 {
		t.Errorf("stripes of 1 mm have %v", period)
	}
	if status, said := b.call(http.MethodPost, one+"/measures", `{"kind":"edge","from_x_px":5,"from_y_px":60,"to_x_px":900,"to_y_px":60}`); status != http.StatusUnprocessableEntity || !strings.HasSuffix(location(said), "to_x_px") {
		t.Errorf("beyond the picture: %d %v", status, said)
	}
	query := "?id=" + ids[0] + "&id=" + ids[1] + "&label=A&label=B"
	beside := b.want(http.MethodGet, "/api/v1/side-by-side?id="+ids[0]+"&id="+ids[1], "")
	if beside["scaled"] != false || len(beside["photographs"].([]any)) != 2 {
		t.Errorf("%v", beside)
	}
	if sheet, header := b.text("/api/v1/picture-sheet.png" + query); !strings.HasPrefix(sheet, "\x89PNG") || header.Get("Content-Type") != "image/png" {
		t.Errorf("%.40q", sheet)
	}
	if key := b.list("/api/v1/picture-sheet/key" + query); !strings.Contains(key, `"label":"B"`) || strings.Count(key, `"code"`) != 2 {
		t.Error(key)
	}
	if status, said := b.call(http.MethodPost, one+"/taking-back", `{"why":"","erase":true}`); status != http.StatusUnprocessableEntity {
		t.Errorf("without a reason: %d %v", status, said)
	}
	b.want(http.MethodPost, one+"/taking-back", `{"why":"a face","erase":true}`)
	if status, _ := b.call(http.MethodGet, one+"/files/large", ""); status != http.StatusNotFound {
		t.Errorf("erased, and shown: %d", status)
	}
	if status, said := b.call(http.MethodGet, "/api/v1/picture-sheet.png"+query, ""); status != http.StatusUnprocessableEntity {
		t.Errorf("a sheet of what was erased: %d %v", status, said)
	}
}
