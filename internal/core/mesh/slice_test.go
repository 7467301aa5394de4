package mesh

import (
	"errors"
	"math"
	"runtime"
	"testing"
)

// cuboid is a closed box, outward faces.
func cuboid(x0, y0, z0, x1, y1, z1 float32) []Triangle {
	v := func(i int) [3]float32 {
		p := [3]float32{x0, y0, z0}
		if i&1 != 0 {
			p[0] = x1
		}
		if i&2 != 0 {
			p[1] = y1
		}
		if i&4 != 0 {
			p[2] = z1
		}
		return p
	}
	var out []Triangle
	for _, q := range [][4]int{{0, 2, 3, 1}, {4, 5, 7, 6}, {0, 1, 5, 4}, {2, 6, 7, 3}, {0, 4, 6, 2}, {1, 3, 7, 5}} {
		out = append(out, Triangle{v(q[0]), v(q[1]), v(q[2])}, Triangle{v(q[0]), v(q[2]), v(q[3])})
	}
	return out
}

// torus lies flat about the origin; radii of ring and tube in mm.
func torus(ring, tube float64, around, across int) []Triangle {
	at := func(i, j int) [3]float32 {
		u, v := 2*math.Pi*float64(i%around)/float64(around), 2*math.Pi*float64(j%across)/float64(across)
		r := ring + tube*math.Cos(v)
		return [3]float32{float32(r * math.Cos(u)), float32(r * math.Sin(u)), float32(tube * math.Sin(v))}
	}
	var out []Triangle
	for i := range around {
		for j := range across {
			a, b, c, d := at(i, j), at(i+1, j), at(i+1, j+1), at(i, j+1)
			out = append(out, Triangle{a, b, c}, Triangle{a, c, d})
		}
	}
	return out
}

// cone stands on its base.
func cone(radius, height float64, sectors int) []Triangle {
	at := func(s int) [3]float32 {
		a := 2 * math.Pi * float64(s%sectors) / float64(sectors)
		return [3]float32{float32(radius * math.Cos(a)), float32(radius * math.Sin(a)), 0}
	}
	var out []Triangle
	for s := range sectors {
		out = append(out, Triangle{at(s), at(s + 1), {0, 0, float32(height)}}, Triangle{at(s + 1), at(s), {0, 0, 0}})
	}
	return out
}

func profile(t *testing.T, triangles []Triangle, layerUM float64) ProfileResult {
	t.Helper()
	p, err := Profile(&Mesh{Triangles: triangles}, layerUM, nil)
	if err != nil {
		t.Fatal(err)
	}
	return p
}

func outlineMM2(p ProfileResult, layerUM float64) (sum float64) {
	for _, l := range p.Layers {
		sum += l.PerimeterMM * layerUM / 1000
	}
	return sum
}

// The tessellations are fine enough that the polyhedra themselves lie within
// half of the tolerance of the round bodies.
func TestSlicesAgreeWithClosedForms(t *testing.T) {
	const tolerance = 1e-4
	for _, c := range []struct {
		name                           string
		triangles                      []Triangle
		layerUM                        float64
		volumeML, surfaceMM2, outlines float64
	}{
		{"sphere r 10, 400 × 800", sphere(10, 400, 800), 10, 4.0 / 3 * math.Pi, 400 * math.Pi, math.Pi * math.Pi * 100},
		{"cone r 8, h 20, 1200 sectors", cone(8, 20, 1200), 10, math.Pi * 64 * 20 / 3 / 1000, math.Pi*64 + math.Pi*8*math.Hypot(8, 20), math.Pi * 8 * 20},
		{"torus 12/4, 900 × 500", torus(12, 4, 900, 500), 5, 2 * math.Pi * math.Pi * 12 * 16 / 1000, 4 * math.Pi * math.Pi * 12 * 4,
			// both circles of each slice: 2π(R+d) + 2π(R−d) over the height
			4 * math.Pi * 12 * 8},
	} {
		t.Run(c.name, func(t *testing.T) {
			p := profile(t, c.triangles, c.layerUM)
			for _, v := range []struct {
				name      string
				got, want float64
			}{
				{"signed volume ml", p.SignedVolumeML, c.volumeML}, {"slice volume ml", p.SliceVolumeML, c.volumeML},
				{"surface mm²", p.SurfaceMM2, c.surfaceMM2}, {"outlines mm²", outlineMM2(p, c.layerUM), c.outlines},
			} {
				if math.Abs(v.got-v.want) > tolerance*v.want {
					t.Errorf("%s: got %v, want %v (off by %.2g)", v.name, v.got, v.want, v.got/v.want-1)
				}
			}
			if len(p.Warnings.Warnings) != 0 {
				t.Errorf("warnings %v", p.Warnings)
			}
		})
	}
}

func TestOverlapsCountOnce(t *testing.T) {
	for _, c := range []struct {
		name            string
		triangles       []Triangle
		area, perimeter float64
		overlap         bool
	}{
		{"crossing bars", append(cuboid(-10, -1, 0, 10, 1, 1), cuboid(-1, -10, 0, 1, 10, 1)...), 76, 80, true},
		{"one inside the other", append(cuboid(0, 0, 0, 10, 10, 1), cuboid(2, 2, 0, 4, 4, 1)...), 100, 40, true},
		{"merged by position only", append(cuboid(0, 0, 0, 10, 10, 1), cuboid(10, 0, 0, 15, 10, 1)...), 150, 50, false},
		{"a shared wall in part", append(cuboid(0, 0, 0, 10, 10, 1), cuboid(10, 3, 0, 15, 7, 1)...), 120, 50, false},
		{"the same twice", append(cuboid(0, 0, 0, 10, 10, 1), cuboid(0, 0, 0, 10, 10, 1)...), 100, 40, true},
		{"apart", append(cuboid(0, 0, 0, 10, 10, 1), cuboid(11, 0, 0, 12, 10, 1)...), 110, 62, false},
	} {
		t.Run(c.name, func(t *testing.T) {
			p := profile(t, c.triangles, 50)
			for i, l := range p.Layers {
				if math.Abs(l.AreaMM2-c.area) > 1e-3 || math.Abs(l.PerimeterMM-c.perimeter) > 1e-3 {
					t.Fatalf("layer %d: %+v, want %v mm² and %v mm", i, l, c.area, c.perimeter)
				}
			}
			if len(p.Layers) != 20 || p.Has("shells_overlap") != c.overlap {
				t.Errorf("%d layers, warnings %v", len(p.Layers), p.Warnings)
			}
		})
	}
}

func TestHollowAndInvertedSlice(t *testing.T) {
	inner := cuboid(2, 2, 2, 8, 8, 8)
	for i, f := range inner {
		inner[i] = Triangle{f[0], f[2], f[1]}
	}
	p := profile(t, append(cuboid(0, 0, 0, 10, 10, 10), inner...), 100)
	if mid := p.Layers[50]; math.Abs(mid.AreaMM2-64) > 1e-3 || math.Abs(mid.PerimeterMM-64) > 1e-3 {
		t.Errorf("a hollow box: %+v", mid)
	}
	p = profile(t, inner, 100)
	if !p.Has("inverted") || p.Has("shells_overlap") || math.Abs(p.SliceVolumeML-0.216) > 1e-6 {
		t.Errorf("inside out: %v ml, %v", p.SliceVolumeML, p.Warnings)
	}
}

// Turning, moving and cutting a body otherwise must not change what it holds.
func TestSliceVolumeDoesNotDependOnThePlace(t *testing.T) {
	var want float64
	for _, turn := range []float64{0, 0.3, math.Pi / 4, 2.5} {
		body := append(torus(12, 4, 60, 30), cuboid(-14, -2, -1, 14, 2, 1)...)
		sin, cos := math.Sincos(turn)
		for i := range body {
			for j := range body[i] {
				x, y := float64(body[i][j][0]), float64(body[i][j][1])
				body[i][j][0], body[i][j][1] = float32(x*cos-y*sin+50), float32(x*sin+y*cos-20)
			}
		}
		got := profile(t, body, 20).SliceVolumeML
		if want == 0 {
			want = got
		}
		if math.Abs(got-want) > 1e-4*want {
			t.Errorf("turned by %v: %v ml, want %v", turn, got, want)
		}
	}
}

func TestSlicingStopsWhenAsked(t *testing.T) {
	calls := 0
	_, err := Profile(&Mesh{Triangles: cuboid(0, 0, 0, 10, 10, 100)}, 20, func(share float64) bool {
		calls++
		return share < 0.2
	})
	if !errors.Is(err, ErrStopped) || calls > 100 {
		t.Errorf("error %v after %d calls", err, calls)
	}
}

func TestLayersAreBounded(t *testing.T) {
	for _, layer := range []float64{0, -1, math.NaN(), 1e-3} {
		if _, err := Profile(&Mesh{Triangles: cuboid(0, 0, 0, 10, 10, 300)}, layer, nil); err == nil {
			t.Errorf("a layer of %v µm was accepted", layer)
		}
	}
}

func benchmarkProfile(b *testing.B, rings, sectors int) {
	data := WriteSTL(sphere(40, rings, sectors))
	b.SetBytes(int64(len(data)))
	b.ReportAllocs()
	var peak uint64
	for b.Loop() {
		m, err := ReadSTL(data)
		if err != nil {
			b.Fatal(err)
		}
		p, err := Profile(m, 80, nil)
		if err != nil || len(p.Layers) != 1000 || p.OpenEdges != 0 {
			b.Fatalf("%v, %d layers, %d open edges", err, len(p.Layers), p.OpenEdges)
		}
		var now runtime.MemStats
		runtime.ReadMemStats(&now)
		peak = max(peak, now.HeapSys)
	}
	b.ReportMetric(float64(peak)/1e6, "heap-MB")
}

func BenchmarkProfileMillion(b *testing.B)      { benchmarkProfile(b, 500, 1001) }
func BenchmarkProfileThreeMillion(b *testing.B) { benchmarkProfile(b, 1000, 1501) }
