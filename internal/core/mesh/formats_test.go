package mesh

import (
	"archive/zip"
	"bytes"
	"fmt"
	"io"
	"math"
	"strings"
	"testing"
)

// zipped packs parts in the order given, name and text in turn.
func zipped(t testing.TB, parts ...string) []byte {
	t.Helper()
	var out bytes.Buffer
	z := zip.NewWriter(&out)
	for i := 0; i < len(parts); i += 2 {
		w, err := z.CreateHeader(&zip.FileHeader{Name: parts[i], Method: zip.Deflate})
		if err != nil {
			t.Fatal(err)
		}
		if _, err := io.WriteString(w, parts[i+1]); err != nil {
			t.Fatal(err)
		}
	}
	if err := z.Close(); err != nil {
		t.Fatal(err)
	}
	return out.Bytes()
}

func model3MF(t testing.TB, unit, resources, build string) []byte {
	return zipped(t, "_rels/.rels", relationships, "3D/3dmodel.model",
		fmt.Sprintf(`<model unit=%q><resources>%s</resources><build>%s</build></model>`, unit, resources, build))
}

// tetrahedron has edges of 1 along the axes and a volume of a sixth.
const tetrahedron = `<mesh><vertices><vertex x="0" y="0" z="0"/><vertex x="1" y="0" z="0"/><vertex x="0" y="1" z="0"/><vertex x="0" y="0" z="1"/></vertices>
<triangles><triangle v1="0" v2="2" v3="1"/><triangle v1="0" v2="1" v3="3"/><triangle v1="1" v2="2" v3="3"/><triangle v1="0" v2="3" v3="2"/></triangles></mesh>`

// Brackets in quotes and comments, prefixes, entities and single quotes are XML
// that other programs write.
func TestReadUnusualXML(t *testing.T) {
	text := `<?xml version="1.0"?><!-- a > b -- --><m:model xmlns:m='x' unit='centimeter' note="a > b"><m:resources>
<m:object id="a&amp;b" name='>'><m:mesh><m:vertices ><m:vertex x = "0" y="0" z="0" />` +
		`<m:vertex z="0" y="0" x="1"></m:vertex><m:vertex x="0" y="1" z="0"/><m:vertex x="0" y="0" z="1"/></m:vertices>
<m:triangles><m:triangle v1="0" v2="2" v3="1"/><m:triangle v1="0" v2="1" v3="3"/><m:triangle v1="1" v2="2" v3="3"/><m:triangle v1="0" v2="3" v3="2"/></m:triangles></m:mesh></m:object></m:resources>
<m:build><m:item objectid="a&amp;b"/></m:build></m:model>`
	m, err := Read(zipped(t, "_rels/.rels", relationships, "3D/3dmodel.model", text))
	if err != nil {
		t.Fatal(err)
	}
	if f := Measure(m); f.Triangles != 4 || math.Abs(f.SignedVolumeML-1.0/6) > 1e-9 {
		t.Errorf("%d triangles, %v ml", f.Triangles, f.SignedVolumeML)
	}
}

func TestRead3MF(t *testing.T) {
	body := `<object id="7">` + tetrahedron + `</object>`
	for _, c := range []struct {
		name      string
		data      []byte
		triangles int64
		volumeML  float64
		max       [3]float64
	}{
		{"centimetres", model3MF(t, "centimeter", body, `<item objectid="7"/>`), 4, 1.0 / 6, [3]float64{10, 10, 10}},
		{"two items, one moved", model3MF(t, "inch", body, `<item objectid="7"/><item objectid="7" transform="1 0 0 0 1 0 0 0 1 2 0 0"/>`),
			8, 2 * math.Pow(2.54, 3) / 6, [3]float64{76.2, 25.4, 25.4}},
		{"a mirrored one keeps its volume", model3MF(t, "centimeter", body, `<item objectid="7" transform="-1 0 0 0 1 0 0 0 1 3 0 0"/>`), 4, 1.0 / 6, [3]float64{30, 10, 10}},
		{"components turn inside their build item", model3MF(t, "centimeter", body+
			`<object id="8"><components><component objectid="7" transform="0 1 0 -1 0 0 0 0 1 0 0 0"/><component objectid="7"/></components></object>`,
			`<item objectid="8" transform="2 0 0 0 2 0 0 0 2 5 0 0"/>`), 8, 2 * 8.0 / 6, [3]float64{70, 20, 20}},
		{"an object of another part", zipped(t, "_rels/.rels", relationships, "3D/other.model", `<model unit="meter"><resources>`+body+`</resources></model>`,
			"3D/3dmodel.model", `<model><resources><object id="1"><components><component path="/3D/other.model" objectid="7" transform="0.01 0 0 0 0.01 0 0 0 0.01 0 0 0"/></components></object></resources><build><item objectid="1"/></build></model>`),
			4, 1.0 / 6, [3]float64{10, 10, 10}},
	} {
		t.Run(c.name, func(t *testing.T) {
			m, err := Read(c.data)
			if err != nil {
				t.Fatal(err)
			}
			f := Measure(m)
			if f.Format != "3mf" || f.Triangles != c.triangles || math.Abs(f.SignedVolumeML-c.volumeML) > 1e-6*c.volumeML {
				t.Errorf("%s: %d triangles, %v ml; want %d, %v", f.Format, f.Triangles, f.SignedVolumeML, c.triangles, c.volumeML)
			}
			for axis, want := range c.max {
				if math.Abs(f.BoundsMM.Max[axis]-want) > 1e-4 {
					t.Errorf("reaches %v, want %v", f.BoundsMM.Max, c.max)
				}
			}
		})
	}
}

func Test3MFReadsBackWhatWasWritten(t *testing.T) {
	ball := sphere(10, 12, 24)
	data, err := Write3MF([]Object{{`ball & "socket" <1>`, ball}, {"bar", cuboid(0, 0, 0, 5, 1, 1)}},
		[]Item{{0, Pose{Scale: 1}}, {1, Pose{XMM: 100, TurnDeg: 90, Scale: 2}}})
	if err != nil {
		t.Fatal(err)
	}
	m, err := Read(data)
	if err != nil {
		t.Fatal(err)
	}
	want := append(append([]Triangle{}, ball...), Placed(cuboid(0, 0, 0, 5, 1, 1), Pose{XMM: 100, TurnDeg: 90, Scale: 2})...)
	if len(m.Triangles) != len(want) {
		t.Fatalf("%d triangles, want %d", len(m.Triangles), len(want))
	}
	for i := range want {
		if m.Triangles[i] != want[i] {
			t.Fatalf("triangle %d is %v, want %v", i, m.Triangles[i], want[i])
		}
	}
}

func TestReadOBJ(t *testing.T) {
	text := "# a cube\no cube\n" +
		"v 0 0 0\nv 10 0 0\nv 10 10 0\nv 0 10 0\nv 0 0 10 1\nv 10 0 10\nv 10 10 10\nv 0 10 10\nvn 0 0 1\n" +
		"f 4 3 2 1\nf 5/1 6/2 7/3 8/4\nf 1//1 2//1 6//1 5//1\nf 2 3 7 6\nf -6 -5 -1 \\\n -2\nf 4 1 5 8\n"
	m, err := Read([]byte(text))
	if err != nil {
		t.Fatal(err)
	}
	if f := Measure(m); f.Format != "obj" || f.Triangles != 12 || math.Abs(f.SignedVolumeML-1) > 1e-9 || f.OpenEdges != 0 {
		t.Errorf("%+v", f)
	}
}

func TestHostileFilesAreRefused(t *testing.T) {
	body := `<object id="1">` + tetrahedron + `</object>`
	// Each level holds the one below twice: 2^30 copies from a few lines.
	doubling := body
	for i := 2; i < 32; i++ {
		doubling += fmt.Sprintf(`<object id="%d"><components><component objectid="%d"/><component objectid="%d"/></components></object>`, i, i-1, i-1)
	}
	for _, c := range []struct {
		name string
		data []byte
		want string
	}{
		{"a path that climbs out", zipped(t, "../../etc/x", "", "_rels/.rels", relationships), "climbs out"},
		{"a path from the root", zipped(t, "/etc/x", "", "_rels/.rels", relationships), "climbs out"},
		{"a zip of something else", zipped(t, "notes.txt", "hello"), "no 3MF file"},
		{"a cut zip", model3MF(t, "inch", body, `<item objectid="1"/>`)[:300], "no whole 3MF file"},
		{"a part that is not there", zipped(t, "_rels/.rels", relationships), "missing from the package"},
		{"not a number", model3MF(t, "inch", strings.Replace(body, `x="1"`, `x="NaN"`, 1), `<item objectid="1"/>`), "vertex 1"},
		{"a corner of nothing", model3MF(t, "inch", strings.Replace(body, `v1="1"`, `v1="9"`, 1), `<item objectid="1"/>`), "triangle 3"},
		{"an unknown unit", model3MF(t, "furlong", body, `<item objectid="1"/>`), "furlong"},
		{"an empty build", model3MF(t, "inch", body, ``), "nothing on its build"},
		{"an item of nothing", model3MF(t, "inch", body, `<item objectid="5"/>`), "not there"},
		{"itself", model3MF(t, "inch", `<object id="1"><components><component objectid="1"/></components></object>`, `<item objectid="1"/>`), "holds itself"},
		{"doubling", model3MF(t, "inch", doubling, `<item objectid="31"/>`), "triangles or more"},
		{"doubling nothing", model3MF(t, "inch", strings.Replace(doubling, tetrahedron, "", 1), `<item objectid="31"/>`), "holds itself"},
		{"a broken transform", model3MF(t, "inch", body, `<item objectid="1" transform="1 2 3"/>`), "twelve"},
		{"thrown far away", model3MF(t, "meter", body, `<item objectid="1" transform="1 0 0 0 1 0 0 0 1 1e300 0 0"/>`), "no place"},
		{"obj: two corners", []byte("v 0 0 0\nv 1 0 0\nf 1 2\n"), "line 3"},
		{"obj: a corner of nothing", []byte("v 0 0 0\nv 1 0 0\nv 1 1 0\nf 1 2 4\n"), "line 4"},
		{"obj: not a number", []byte("v 0 nan 0\n"), "line 1"},
		{"obj: no faces", []byte("v 0 0 0\n"), "no faces"},
	} {
		t.Run(c.name, func(t *testing.T) {
			if _, err := Read(c.data); err == nil || !strings.Contains(err.Error(), c.want) {
				t.Errorf("error %v, want one with %q", err, c.want)
			}
		})
	}
}

func TestBombsStopAtTheirBound(t *testing.T) {
	const head = `<model unit="inch"><resources><object id="1"><mesh><vertices>`
	for name, c := range map[string]struct{ filler, want string }{
		"text without end":  {strings.Repeat(" ", 5<<20), "unpacks to more than 4 MiB"},
		"a tag without end": {"<vertex " + strings.Repeat(" ", 3<<20), "a tag of more than"},
		"a document type":   {`<!DOCTYPE x [<!ENTITY a "aaaa">]>`, "no need of"},
		"cut off":           {`<vertex x="0" y="0" z="0"/>`, "before it is closed"},
		"cut within a tag":  {`<vertex x="0" y=`, "within a tag"},
		"in a comment":      {`<!-- and so on > without end`, "within a comment"},
		"closed too often":  {strings.Repeat("</x>", 6), "never opened"},
		"tags without end":  {strings.Repeat(`<vertex x="0" y="0" z="0"/>`, 200_000), "unpacks to more than 4 MiB"},
	} {
		_, err := read3MF(zipped(t, "_rels/.rels", relationships, "3D/3dmodel.model", head+c.filler), 4<<20)
		if err == nil || !strings.Contains(err.Error(), c.want) {
			t.Errorf("%s: error %v, want one with %q", name, err, c.want)
		}
	}
}

func FuzzRead(f *testing.F) {
	ball := sphere(10, 4, 6)
	threeMF, err := Write3MF([]Object{{"ball", ball}}, []Item{{0, Pose{Scale: 1}}})
	if err != nil {
		f.Fatal(err)
	}
	f.Add(WriteSTL(ball))
	f.Add(threeMF)
	f.Add([]byte("v 0 0 0\nv 1 0 0\nv 1 1 1\nf 1 2 -1\n"))
	f.Add(model3MF(f, "inch", `<object id="1">`+tetrahedron+`</object>`, `<item objectid="1" transform="1 0 0 0 1 0 0 0 1 0 0 5"/>`))
	f.Fuzz(func(t *testing.T, data []byte) {
		m, err := Read(data)
		if err != nil {
			return
		}
		facts := Measure(m)
		if math.IsNaN(facts.SignedVolumeML) || facts.Triangles < 1 {
			t.Errorf("accepted a mesh that cannot be measured: %+v", facts)
		}
		height := 1000 * facts.Size()[2]
		p, err := Profile(m, max(50, height/40), nil)
		if err != nil {
			t.Fatalf("accepted a mesh that cannot be sliced: %v", err)
		}
		for i, l := range p.Layers {
			if !(l.AreaMM2 >= 0 && l.PerimeterMM >= 0) || math.IsInf(l.AreaMM2, 0) || math.IsInf(l.PerimeterMM, 0) {
				t.Fatalf("layer %d: %+v", i, l)
			}
		}
	})
}

// FuzzModelPart reaches the XML without the zip in the way.
func FuzzModelPart(f *testing.F) {
	f.Add(`<model unit="inch"><resources><object id="1">` + tetrahedron + `</object></resources><build><item objectid="1"/></build></model>`)
	f.Fuzz(func(t *testing.T, text string) {
		m, err := Read(zipped(t, "_rels/.rels", relationships, "3D/3dmodel.model", text))
		if err == nil && len(m.Triangles) == 0 {
			t.Error("accepted a model without triangles")
		}
	})
}
