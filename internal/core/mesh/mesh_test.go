package mesh

import (
	"bytes"
	"fmt"
	"math"
	"strings"
	"testing"
)

// sphere is tessellated in rings and sectors, outward faces, about a centre
// away from the origin.
func sphere(radius float64, rings, sectors int) []Triangle {
	at := func(r, s int) [3]float32 {
		polar, around := math.Pi*float64(r)/float64(rings), 2*math.Pi*float64(s%sectors)/float64(sectors)
		z := math.Cos(polar)
		if r == 0 || r == rings {
			return [3]float32{30, -20, float32(15 + radius*z)}
		}
		return [3]float32{float32(30 + radius*math.Sin(polar)*math.Cos(around)), float32(-20 + radius*math.Sin(polar)*math.Sin(around)), float32(15 + radius*z)}
	}
	var out []Triangle
	for r := range rings {
		for s := range sectors {
			a, b, c, d := at(r, s), at(r+1, s), at(r+1, s+1), at(r, s+1)
			if r < rings-1 {
				out = append(out, Triangle{a, b, c})
			}
			if r > 0 {
				out = append(out, Triangle{a, c, d})
			}
		}
	}
	return out
}

func TestSphereAgreesWithClosedForms(t *testing.T) {
	const radius = 10.0
	f := Measure(&Mesh{Triangles: sphere(radius, 400, 800)})
	for _, c := range []struct {
		name      string
		got, want float64
	}{
		{"volume ml", f.SignedVolumeML, 4.0 / 3 * math.Pi * radius * radius * radius / 1000},
		{"surface mm²", f.SurfaceMM2, 4 * math.Pi * radius * radius},
		// ∫ 2π·√(r²−z²) dz = π²r²
		{"outline mm²", f.OutlineMM2, math.Pi * math.Pi * radius * radius},
		{"height mm", f.Size()[2], 2 * radius},
	} {
		if math.Abs(c.got-c.want) > 1e-4*c.want {
			t.Errorf("%s: got %v, want %v", c.name, c.got, c.want)
		}
	}
	if f.Shells != 1 || f.OpenEdges != 0 || f.NonmanifoldEdges != 0 || len(f.Warnings.Warnings) != 0 {
		t.Errorf("a closed sphere: %d shells, %d open, %d nonmanifold, %v", f.Shells, f.OpenEdges, f.NonmanifoldEdges, f.Warnings)
	}
}

func TestWhatIsWrongIsNamed(t *testing.T) {
	ball := sphere(10, 20, 40)
	inverted := make([]Triangle, len(ball))
	for i, f := range ball {
		inverted[i] = Triangle{f[0], f[2], f[1]}
	}
	for _, c := range []struct {
		name      string
		triangles []Triangle
		code      string
	}{
		{"a hole", ball[1:], "not_closed"},
		{"a fin", append([]Triangle{{ball[5][0], ball[5][1], {99, 0, 0}}}, ball...), "nonmanifold"},
		{"inside out", inverted, "inverted"},
		{"in inches", sphere(1, 20, 40), "units_doubtful"},
	} {
		t.Run(c.name, func(t *testing.T) {
			if f := Measure(&Mesh{Triangles: c.triangles}); !f.Has(c.code) {
				t.Errorf("warnings %v, want %s", f.Warnings.Warnings, c.code)
			}
		})
	}
	if f := Measure(&Mesh{Format: "3mf", Triangles: sphere(1, 20, 40)}); f.Has("units_doubtful") {
		t.Error("a 3MF states its unit, and was doubted")
	}
	if f := Measure(&Mesh{Triangles: append(sphere(10, 20, 40), sphere(5, 20, 40)...)}); f.Shells != 2 {
		t.Errorf("two balls are %d shells", f.Shells)
	}
}

func ascii(triangles []Triangle) []byte {
	var b bytes.Buffer
	b.WriteString("solid ball\n")
	for _, t := range triangles {
		b.WriteString("facet normal 0 0 0\nouter loop\n")
		for _, v := range t {
			fmt.Fprintf(&b, "vertex %v %v %v\n", v[0], v[1], v[2])
		}
		b.WriteString("endloop\nendfacet\n")
	}
	b.WriteString("endsolid ball\n")
	return b.Bytes()
}

func TestBothKindsReadBackTheSame(t *testing.T) {
	want := sphere(10, 12, 24)
	for name, data := range map[string][]byte{"binary": WriteSTL(want), "ascii": ascii(want)} {
		got, err := ReadSTL(data)
		if err != nil {
			t.Fatalf("%s: %v", name, err)
		}
		if len(got.Triangles) != len(want) {
			t.Fatalf("%s: %d triangles, want %d", name, len(got.Triangles), len(want))
		}
		for i := range want {
			if got.Triangles[i] != want[i] {
				t.Fatalf("%s: triangle %d is %v, want %v", name, i, got.Triangles[i], want[i])
			}
		}
	}
}

func TestBrokenFilesAreNamed(t *testing.T) {
	whole := WriteSTL(sphere(10, 12, 24))
	lying := bytes.Clone(whole)
	lying[83] = 0x7f
	nan := bytes.Clone(whole)
	copy(nan[headerBytes+2*triangleBytes+12:], []byte{0, 0, 0xc0, 0x7f})
	for _, c := range []struct {
		name string
		data []byte
		want string
	}{
		{"nothing", nil, "empty"},
		{"a note", []byte("hello"), "ends at byte 5"},
		{"cut off", whole[:headerBytes+7*triangleBytes+3], "inside triangle 8"},
		{"a count that lies", lying, "announces"},
		{"too long", append(bytes.Clone(whole), 1, 2, 3), "goes on for 3 bytes"},
		{"no place", nan, "triangle 3"},
		{"ascii with a word", []byte("solid x\nfacet normal 0 0 1\nvertex 1 2 z\n"), "line 3"},
		{"ascii two corners", []byte("solid x\nfacet normal 0 0 1\nvertex 1 2 3\nendfacet\n"), "line 4"},
		{"ascii infinite", []byte("solid x\nfacet n\nvertex inf 2 3\n"), "line 3"},
	} {
		t.Run(c.name, func(t *testing.T) {
			_, err := ReadSTL(c.data)
			if err == nil || !strings.Contains(err.Error(), c.want) {
				t.Errorf("error %v, want one with %q", err, c.want)
			}
		})
	}
}

func FuzzReadSTL(f *testing.F) {
	ball := sphere(10, 4, 6)
	f.Add(WriteSTL(ball))
	f.Add(ascii(ball))
	f.Add([]byte("solid \nfacet\nvertex 1 1 1"))
	f.Fuzz(func(t *testing.T, data []byte) {
		m, err := ReadSTL(data)
		if err != nil {
			return
		}
		facts := Measure(m)
		if math.IsNaN(facts.SignedVolumeML) || math.IsNaN(facts.SurfaceMM2) || facts.Triangles < 1 {
			t.Errorf("accepted a mesh that cannot be measured: %+v", facts)
		}
		again, err := ReadSTL(WriteSTL(m.Triangles))
		if err != nil || len(again.Triangles) != len(m.Triangles) {
			t.Errorf("what was written does not read back: %v", err)
		}
	})
}

func BenchmarkReadAndMeasureMillion(b *testing.B) {
	data := WriteSTL(sphere(40, 500, 1001))
	b.SetBytes(int64(len(data)))
	b.ReportAllocs()
	for b.Loop() {
		m, err := ReadSTL(data)
		if err != nil {
			b.Fatal(err)
		}
		if facts := Measure(m); facts.OpenEdges != 0 {
			b.Fatalf("%d open edges", facts.OpenEdges)
		}
	}
}
