package mechanics

import (
	"math"
	"testing"

	"ojime/internal/core/quantity"
)

// A simple beam under a load in its middle bends by P·L³/(48·E·I), I = b·h³/12 (Gere and
// Goodno, Mechanics of Materials, 9th ed., table H-2): a steel ruler of 30 × 1 mm on 300 mm
// under 2 N by 2.1429 mm.
func TestBendAgreesWithABeamOfTheBooks(t *testing.T) {
	const e, span, width, thick, force = 210_000.0, 300.0, 30.0, 1.0, 2.0
	deflection := force * span * span * span / (48 * e * width * thick * thick * thick / 12)
	if math.Abs(deflection-2.142857) > 1e-6 {
		t.Fatalf("the beam bends by %v", deflection)
	}
	got, err := Bend(BendInput{SpanMM: span, WidthMM: width, ThicknessMM: thick, MassG: 1000 * force / standardGravity, DeflectionMM: deflection})
	if err != nil || math.Abs(got.ModulusMPA-e) > 1e-6*e || math.Abs(got.ForceN-force) > 1e-12 {
		t.Errorf("%+v, %v", got, err)
	}
	if _, err := Bend(BendInput{SpanMM: 1, WidthMM: 1, ThicknessMM: 1, MassG: 1, DeflectionMM: 1, Deflection0MM: quantity.Ptr(1.0)}); err == nil {
		t.Error("a preload that bends as far was taken")
	}
}

// What an object gains in speed is what it loses in height.
func TestAFallKeepsItsEnergy(t *testing.T) {
	got, err := Drop(DropInput{MassG: 40, Heights: []Fall{{500, 1, 2}, {250, 2, 2}}})
	if err != nil {
		t.Fatal(err)
	}
	for i, h := range got.Heights {
		if kinetic := 0.5 * 0.040 * math.Pow(h.SpeedMMS/1000, 2) * 1000; math.Abs(kinetic-h.EnergyMJ) > 1e-9 {
			t.Errorf("%d: %v mJ of motion, %v of height", i, kinetic, h.EnergyMJ)
		}
	}
	for _, in := range []DropInput{{MassG: 1}, {MassG: 1, Heights: []Fall{{0, 1, 1}}}, {MassG: 1, Heights: []Fall{{1, 0, 0}}}} {
		if _, err := Drop(in); err == nil {
			t.Errorf("%+v was taken", in)
		}
	}
}

// Falls from twice the height at which the same share survives move the height at which half
// do by as much, interval and all.
func TestHalfFallsScaleWithHeight(t *testing.T) {
	once := []Fall{{200, 5, 6}, {400, 3, 6}, {800, 1, 6}}
	twice := []Fall{{400, 5, 6}, {800, 3, 6}, {1600, 1, 6}}
	a, _ := Drop(DropInput{MassG: 10, Heights: once})
	b, err := Drop(DropInput{MassG: 10, Heights: twice})
	if err != nil || math.Abs(*b.Firth.Height50MM / *a.Firth.Height50MM - 2) > 1e-3 || math.Abs(*b.Firth.CIMM[0] / *a.Firth.CIMM[0] - 2) > 1e-3 || *a.Firth.CIMM[0] >= *a.Firth.CIMM[1] {
		t.Errorf("%+v %+v %v", a.Firth, b.Firth, err)
	}
}
