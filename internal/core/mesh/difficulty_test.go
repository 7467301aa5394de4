package mesh

import (
	"math"
	"testing"
)

// column is an upright cylinder.
func column(x, y, radius, z0, z1 float64, sectors int) []Triangle {
	at := func(s int, z float64) [3]float32 {
		a := 2 * math.Pi * float64(s%sectors) / float64(sectors)
		return [3]float32{float32(x + radius*math.Cos(a)), float32(y + radius*math.Sin(a)), float32(z)}
	}
	var out []Triangle
	for s := range sectors {
		out = append(out,
			Triangle{at(s, z0), at(s+1, z0), at(s+1, z1)}, Triangle{at(s, z0), at(s+1, z1), at(s, z1)},
			Triangle{{float32(x), float32(y), float32(z0)}, at(s+1, z0), at(s, z0)},
			Triangle{{float32(x), float32(y), float32(z1)}, at(s, z1), at(s+1, z1)})
	}
	return out
}

func near(t *testing.T, name string, got, want, tolerance float64) {
	t.Helper()
	if math.Abs(got-want) > tolerance {
		t.Errorf("%s: got %v, want %v ± %v", name, got, want, tolerance)
	}
}

func TestJudgeReadsTheSlices(t *testing.T) {
	// A base, a staff on it, a table top on the staff, and a ball in mid-air.
	body := append(cuboid(0, 0, 0, 20, 10, 2), column(5, 5, 0.4, 2, 12, 32)...)
	body = append(body, cuboid(2, 2, 12, 12, 9, 14)...)
	body = append(body, column(17, 5, 1, 6, 9, 48)...)
	d, err := Judge(&Mesh{Triangles: body}, nil)
	if err != nil {
		t.Fatal(err)
	}
	near(t, "contact", d.ContactMM2, 200, 0.01)
	near(t, "largest", d.LargestMM2, 200, 0.01)
	near(t, "jump", d.JumpMM2, 70-math.Pi*0.16, 0.05)
	near(t, "jump at", d.JumpAt, 12, 0.1)
	near(t, "overhang", d.OverhangMM2, 70+math.Pi+math.Pi*0.16, 0.05)
	if d.ThinnestMM == nil {
		t.Fatal("the staff was not seen")
	}
	near(t, "thinnest", *d.ThinnestMM, 0.8, 0.03)
	if d.IslandCount != 1 {
		t.Fatalf("%d islands: %v", d.IslandCount, d.Islands)
	}
	near(t, "island at", d.Islands[0].AtMM, 6, 0.1)
	near(t, "island x", d.Islands[0].XMM, 17, 0.05)
	near(t, "island area", d.Islands[0].AreaMM2, math.Pi, 0.1)
}

func TestPointsAreNoThinParts(t *testing.T) {
	d, err := Judge(&Mesh{Triangles: cone(8, 20, 200)}, nil)
	if err != nil {
		t.Fatal(err)
	}
	if d.ThinnestMM != nil || d.IslandCount != 0 {
		t.Errorf("a cone: %+v", d)
	}
	near(t, "relief of a disc", d.ReliefRatio, 1, 0.001)
	d, err = Judge(&Mesh{Triangles: cuboid(0, 0, 0, 10, 10, 30)}, nil)
	if err != nil {
		t.Fatal(err)
	}
	near(t, "relief of a square", d.ReliefRatio, 2/math.Sqrt(math.Pi), 0.001)
	near(t, "width of a square", *d.ThinnestMM, 4*10/math.Sqrt(12), 0.05)
}

func TestHollowAgreesWithClosedForms(t *testing.T) {
	ball := 4.0 / 3 * math.Pi / 1000
	for _, c := range []struct {
		name        string
		triangles   []Triangle
		wall        float64
		solid, void float64
	}{
		{"cube of 30, wall 2", cuboid(0, 0, 0, 30, 30, 30), 2, 27, 26 * 26 * 26.0 / 1000},
		{"sphere r 20, wall 1.5", sphere(20, 100, 200), 1.5, ball * 8000, ball * math.Pow(18.5, 3)},
		{"thinner than its walls", cuboid(0, 0, 0, 30, 3, 30), 2, 2.7, 0},
	} {
		t.Run(c.name, func(t *testing.T) {
			h, err := Hollow(&Mesh{Triangles: c.triangles}, c.wall, nil)
			if err != nil {
				t.Fatal(err)
			}
			near(t, "solid", h.SolidML, c.solid, 0.002*c.solid)
			near(t, "cavity", h.CavityML, c.void, 0.02*c.solid)
			near(t, "shell", h.ShellML, c.solid-h.CavityML, 0.003*c.solid)
		})
	}
}

func TestAThinWallWarns(t *testing.T) {
	h, err := Hollow(&Mesh{Triangles: cuboid(0, 0, 0, 100, 100, 100)}, 0.5, nil)
	if err != nil || !h.Has("coarse_grid") {
		t.Errorf("%v, %v", h, err)
	}
	if _, err := Hollow(&Mesh{Triangles: cuboid(0, 0, 0, 1, 1, 1)}, -1, nil); err == nil {
		t.Error("a negative wall was accepted")
	}
}

func BenchmarkJudgeMillion(b *testing.B) {
	m := &Mesh{Triangles: sphere(40, 500, 1001)}
	for b.Loop() {
		if _, err := Judge(m, nil); err != nil {
			b.Fatal(err)
		}
	}
}
