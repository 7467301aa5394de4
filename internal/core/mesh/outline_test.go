package mesh

import (
	"math"
	"testing"
)

func enclosed(l Loop) (area float64) {
	for i, a := range l {
		b := l[(i+1)%len(l)]
		area += (a[0]*b[1] - a[1]*b[0]) / 2
	}
	return area
}

func TestOutlineLinksLoops(t *testing.T) {
	m := &Mesh{Triangles: append(torus(12, 4, 90, 40), cuboid(30, 0, 0, 35, 5, 3)...)}
	cut, err := OutlineOf(m, 100, 50) // 5 mm up, 1 mm above the middle of the ring
	if err != nil {
		t.Fatal(err)
	}
	loops, at := cut.Loops, cut.AtMM
	var sum float64
	for _, l := range loops {
		sum += enclosed(l)
	}
	half := math.Sqrt(16 - 1.05*1.05)
	if len(loops) != 3 || math.Abs(at-5.05) > 1e-6 || math.Abs(sum-(4*math.Pi*12*half+25)) > 3 || math.Abs(cut.Facts.AreaMM2-sum) > 1e-6 || cut.Layers != 80 {
		t.Errorf("%d loops at %v mm, %v mm²", len(loops), at, sum)
	}
	for _, l := range loops {
		if enclosed(l) == 25 && len(l) != 4 {
			t.Errorf("a square has %d corners", len(l))
		}
	}
	if _, err := OutlineOf(m, 100, 80); err == nil {
		t.Error("a layer above the top was cut")
	}
	open, err := OutlineOf(&Mesh{Triangles: sphere(10, 20, 40)[1:]}, 100, 100)
	if err != nil || len(open.Loops) != 1 {
		t.Errorf("%d loops of a ball with a hole at its pole, %v", len(open.Loops), err)
	}
}

func TestReducedKeepsTheShape(t *testing.T) {
	ball := sphere(10, 200, 400)
	small := Reduced(ball, 20000)
	if len(small) > 30000 || len(small) < 5000 {
		t.Fatalf("%d triangles of %d", len(small), len(ball))
	}
	if v := Measure(&Mesh{Triangles: small}).SignedVolumeML; math.Abs(v-4.0/3*math.Pi) > 0.05 {
		t.Errorf("volume %v ml", v)
	}
	if got := Reduced(ball, len(ball)); len(got) != len(ball) {
		t.Error("a small mesh was reduced")
	}
}

func TestPictureShowsTheSilhouette(t *testing.T) {
	p := Picture(sphere(10, 40, 80), 200)
	painted := 0
	for i := 3; i < len(p.Pix); i += 4 {
		if p.Pix[i] > 0 {
			painted++
		}
	}
	// A ball fills a disc of 0.92 of the width.
	if want := math.Pi / 4 * 0.92 * 0.92 * 200 * 200; math.Abs(float64(painted)-want) > 0.02*want {
		t.Errorf("%d pixels painted, want %v", painted, want)
	}
}

// What a closeup shows about a place is what the whole picture has there, enlarged.
func TestACloseupIsAPartOfThePicture(t *testing.T) {
	ball := sphere(10, 40, 80)
	whole, one := Closeup(ball, 400, 1, 0.5, 0.5)
	part, four := Closeup(ball, 400, 4, 0.3, 0.4)
	if math.Abs(four-4*one) > 1e-9 || math.Abs(one-0.92*400/20) > 0.2 {
		t.Errorf("%v and %v pixels a millimetre", one, four)
	}
	for _, at := range [][2]int{{200, 200}, {40, 200}, {360, 40}, {200, 330}} {
		x, y := 0.3*400+float64(at[0]-200)/4, 0.4*400+float64(at[1]-200)/4
		if a, b := part.RGBAAt(at[0], at[1]).A, whole.RGBAAt(int(x), int(y)).A; a != b {
			t.Errorf("at %v the closeup has %d, the picture %d", at, a, b)
		}
	}
}
