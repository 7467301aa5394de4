package say

import (
	"encoding/json"
	"math"
	"math/big"
	"math/rand/v2"
	"os"
	"strconv"
	"strings"
	"testing"
)

// cases are shared with the pages' formatter.
type cases struct {
	Figure      [][3]any `json:"figure"`
	Duration    [][2]any `json:"duration"`
	Percent     [][2]any `json:"percent"`
	Micrometres [][2]any `json:"micrometres"`
	Counted     [][4]any `json:"counted"`
}

func read(t *testing.T) (c cases) {
	t.Helper()
	text, err := os.ReadFile("testdata/cases.json")
	if err == nil {
		err = json.Unmarshal(text, &c)
	}
	if err != nil {
		t.Fatal(err)
	}
	if len(c.Figure) < 30 || len(c.Duration) < 10 || len(c.Counted) < 5 || len(c.Percent) < 5 || len(c.Micrometres) < 5 {
		t.Fatal("the cases are not all there")
	}
	return c
}

func TestFiguresReadAsInTheSharedCases(t *testing.T) {
	c := read(t)
	for _, k := range c.Figure {
		if got := Figures(k[0].(float64), int(k[1].(float64))); got != k[2] {
			t.Errorf("%v with %v figures reads %q, want %q", k[0], k[1], got, k[2])
		}
	}
	for name, f := range map[string]struct {
		list [][2]any
		of   func(float64) string
	}{"duration": {c.Duration, Duration}, "percent": {c.Percent, Percent}, "micrometres": {c.Micrometres, Micrometres}} {
		for _, k := range f.list {
			if got := f.of(k[0].(float64)); got != k[1] {
				t.Errorf("%s of %v reads %q, want %q", name, k[0], got, k[1])
			}
		}
	}
	for _, k := range c.Counted {
		if got := Counted(int64(k[0].(float64)), k[1].(string), k[2].(string)); got != k[3] {
			t.Errorf("%v reads %q, want %q", k[0], got, k[3])
		}
	}
}

// Whatever the number, it reads without an exponent and stands for the number to its
// figures.
func FuzzFigure(f *testing.F) {
	for _, v := range []float64{0, 1, 12.25, 999.5, 1e15, 1e-8, -3.5, 1e299, math.NaN(), math.Inf(1)} {
		f.Add(v, 3)
	}
	f.Fuzz(func(t *testing.T, v float64, figures int) {
		if figures < 1 || figures > 12 || math.Abs(v) > 1e300 {
			return
		}
		text := Figures(v, figures)
		if strings.ContainsAny(text, "eE") {
			t.Errorf("%g reads %q", v, text)
		}
		if math.IsNaN(v) || math.IsInf(v, 0) {
			if text != Unknown {
				t.Errorf("%g reads %q", v, text)
			}
			return
		}
		back, err := strconv.ParseFloat(strings.NewReplacer("−", "-", " ", "").Replace(text), 64)
		if err != nil {
			t.Fatalf("%g reads %q: %v", v, text, err)
		}
		if math.Abs(v) >= dust && math.Abs(back-v) > 0.5000001*math.Pow(10, math.Floor(math.Log10(math.Abs(v)))-float64(figures-1))+math.Abs(v)*0x1p-50 {
			t.Errorf("%g reads %q", v, text)
		}
	})
}

// What the shortest digits say of a number is what all of its digits say.
func TestRoundingIsThatOfAllDigits(t *testing.T) {
	exactly := func(v float64, figures int) string {
		all, exponent := digitsOf(new(big.Float).SetFloat64(v).Text('e', exactDigits))
		n, _ := new(big.Int).SetString(string(all[:figures]), 10)
		if all[figures] >= '5' {
			n.Add(n, big.NewInt(1))
		}
		return strings.TrimRight(n.String(), "0") + " " + strconv.Itoa(exponent+len(n.String())-figures)
	}
	random := rand.New(rand.NewPCG(1, 2))
	for range 200_000 {
		v := math.Ldexp(random.Float64(), random.IntN(60)-30)
		switch random.IntN(3) {
		case 0: // a half as a person types it
			v = math.Round(v*1000)/1000 + 0.0005
		case 1: // halves that a float holds
			v = math.Round(v*1024)/1024 + 1.0/2048
		}
		figures := 1 + random.IntN(8)
		digits, exponent := rounded(v, figures)
		if got, want := digits+" "+strconv.Itoa(exponent), exactly(v, figures); v > 0 && got != want {
			t.Fatalf("%v with %d figures is %s, want %s", v, figures, got, want)
		}
	}
}

func TestTheRest(t *testing.T) {
	for _, c := range [][2]string{
		{Reading(1.2), "1.20"}, {Reading(30), "30.00"}, {Reading(12.345), "12.345"}, {Reading(0.07), "0.07"}, {Whole(12741.5), "12 742"}, {Whole(-0.2), "0"}, {Whole(-1234), "−1 234"}, {Chance(0.0004), "below 0.001"}, {Chance(0.001), "0.001"}, {Chance(0.0456), "0.046"},
		{Interval(1.25, 3, "mm"), "1.25 to 3 mm"}, {Interval(0, 1, ""), "0 to 1"}, {Words("micro_defect"), "micro defect"}, {List(nil), ""}, {List([]string{"a"}), "a"},
		{List([]string{"a", "b", "c"}), "a, b and c"}, {Copies(2, "Turret"), "2 × Turret"}, {FigureOr(nil), "–"}, {Counted(2, "print"), "2 prints"}, {Instant(0), "1970-01-01T00:00:00Z"},
	} {
		if c[0] != c[1] {
			t.Errorf("%q, want %q", c[0], c[1])
		}
	}
}

func TestAFigureInItsUnit(t *testing.T) {
	for unit, want := range map[string]string{"°": "20°", "°C": "20 °C", "mm": "20 mm"} {
		if got := InUnit("20", unit); got != want {
			t.Errorf("%s: %q, want %q", unit, got, want)
		}
	}
}
