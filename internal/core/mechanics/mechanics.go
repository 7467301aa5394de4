// Package mechanics computes what stress tests of printed specimens show: falls and
// bends. It does not plan them, and says nothing of prints.
package mechanics

import (
	"fmt"
	"math"

	"ojime/internal/core/detail"
	"ojime/internal/core/quantity"
	"ojime/internal/say"
)

// standardGravity is g in m/s² (CGPM 1901).
const standardGravity = 9.80665

// Fall is how many of so many fresh specimens survived a fall from a height in mm.
type Fall struct {
	HeightMM float64 `json:"height_mm"`
	Survived int64   `json:"survived"`
	Of       int64   `json:"of"`
}

// DropInput is falls of specimens of one mass in g, > 0; heights > 0, 0 ≤ survived ≤ of,
// of ≥ 1, at least one row.
type DropInput struct {
	MassG   float64 `json:"mass_g"`
	Heights []Fall  `json:"heights"`
}

// FallEnergy is a height with the energy at its end in mJ and the speed in mm/s.
type FallEnergy struct {
	HeightMM float64 `json:"height_mm"`
	EnergyMJ float64 `json:"energy_mj"`
	SpeedMMS float64 `json:"speed_mm_s"`
}

// HalfFall is the height in mm from which half survive, with its profile interval and its
// energy in mJ. Its interval counts specimens: it holds where each is a print of its own.
type HalfFall struct {
	Height50MM *float64     `json:"height50_mm"`
	CIMM       *[2]*float64 `json:"ci_mm"`
	Energy50MJ *float64     `json:"energy50_mj"`
}

// DropResult is a row a height, and where half survive.
type DropResult struct {
	Heights []FallEnergy `json:"heights"`
	Firth   HalfFall     `json:"firth"`
	quantity.Warnings
}

// EnergyMJ is that of a fall of a mass in g from a height in mm.
func EnergyMJ(massG, heightMM float64) float64 { return standardGravity * massG * heightMM / 1000 }

// Drop gives energy and speed of each fall (no air), and the height from which half survive
// by logistic regression on ln(1/height) with Jeffreys' penalty (Firth 1993), as
// detail.Threshold has for sizes: what falls less holds more.
func Drop(in DropInput) (DropResult, error) {
	var c quantity.Checks
	c.Above("mass_g", in.MassG)
	if len(in.Heights) == 0 {
		c.Fail("heights", "is empty; at least one height is needed")
	}
	for i, h := range in.Heights {
		at := fmt.Sprintf("heights[%d].", i)
		c.Above(at+"height_mm", h.HeightMM)
		c.CountNotBelow(at+"survived", h.Survived)
		c.CountAbove(at+"of", h.Of)
		if h.Survived > h.Of {
			c.Fail(at+"survived", "is %d of %d that fell; it cannot be more", h.Survived, h.Of)
		}
	}
	if c.Err() != nil {
		return DropResult{}, c.Err()
	}
	out := DropResult{Warnings: quantity.None()}
	rungs := make([]detail.Rung, len(in.Heights))
	for i, h := range in.Heights {
		out.Heights = append(out.Heights, FallEnergy{h.HeightMM, EnergyMJ(in.MassG, h.HeightMM), math.Sqrt(2 * 1000 * standardGravity * h.HeightMM)})
		rungs[i] = detail.Rung{SizeMM: 1 / h.HeightMM, Intact: h.Survived, Of: h.Of}
	}
	half := detail.Half(rungs)
	if half.CIMM != nil {
		out.Firth.CIMM = &[2]*float64{inverse(half.CIMM[1]), inverse(half.CIMM[0])}
	}
	if out.Firth.Height50MM = inverse(half.D50MM); out.Firth.Height50MM != nil {
		out.Firth.Energy50MJ = quantity.Ptr(EnergyMJ(in.MassG, *out.Firth.Height50MM))
	}
	return out, nil
}

func inverse(v *float64) *float64 {
	if v == nil {
		return nil
	}
	return quantity.Ptr(1 / *v)
}

// BendInput is a bar on two supports, loaded in the middle: lengths in mm, masses in g, all
// > 0. Mass0G and Deflection0MM are a preload and its reading, ≥ 0 and below the others (0
// where nil).
type BendInput struct {
	SpanMM        float64  `json:"span_mm"`
	WidthMM       float64  `json:"width_mm"`
	ThicknessMM   float64  `json:"thickness_mm"`
	MassG         float64  `json:"mass_g"`
	DeflectionMM  float64  `json:"deflection_mm"`
	Mass0G        *float64 `json:"mass0_g,omitempty"`
	Deflection0MM *float64 `json:"deflection0_mm,omitempty"`
}

// BendResult is the force in N, the modulus in MPa and the strain of the outer fibre in %.
type BendResult struct {
	ForceN     float64 `json:"force_n"`
	ModulusMPA float64 `json:"modulus_mpa"`
	StrainPct  float64 `json:"strain_pct"`
	quantity.Warnings
}

// Bend is three-point bending (ISO 178): E = F·L³/(4·b·h³·s), ε = 6·s·h/L². It warns
// large_deflection above a tenth of the span, where the beam formula no longer holds.
func Bend(in BendInput) (BendResult, error) {
	var c quantity.Checks
	for _, v := range []struct {
		at string
		v  float64
	}{{"span_mm", in.SpanMM}, {"width_mm", in.WidthMM}, {"thickness_mm", in.ThicknessMM}, {"mass_g", in.MassG}, {"deflection_mm", in.DeflectionMM}} {
		c.Above(v.at, v.v)
	}
	mass0, deflection0 := quantity.Or(in.Mass0G, 0), quantity.Or(in.Deflection0MM, 0)
	c.NotBelow("mass0_g", mass0)
	c.NotBelow("deflection0_mm", deflection0)
	if mass0 >= in.MassG {
		c.Fail("mass0_g", "is %s, and the load %s; a preload is lighter", say.Figures(mass0, 6), say.Figures(in.MassG, 6))
	}
	if deflection0 >= in.DeflectionMM {
		c.Fail("deflection0_mm", "is %s, and the reading under load %s; that of a preload is less", say.Figures(deflection0, 6), say.Figures(in.DeflectionMM, 6))
	}
	if c.Err() != nil {
		return BendResult{}, c.Err()
	}
	force, deflection := standardGravity*(in.MassG-mass0)/1000, in.DeflectionMM-deflection0
	out := BendResult{ForceN: force, Warnings: quantity.None(),
		ModulusMPA: force * math.Pow(in.SpanMM, 3) / (4 * in.WidthMM * math.Pow(in.ThicknessMM, 3) * deflection),
		StrainPct:  600 * in.ThicknessMM * deflection / (in.SpanMM * in.SpanMM)}
	if quantity.Less(in.SpanMM/10, deflection) {
		out.Warn("large_deflection", "It bent by more than a tenth of the span; the formula no longer holds. Load it less.")
	}
	return out, nil
}
