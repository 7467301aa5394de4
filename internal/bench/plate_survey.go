package bench

import (
	"database/sql/driver"
	"fmt"
	"strings"

	"ojime/internal/core/plan"
	"ojime/internal/core/quantity"
)

// PlateSurvey is what is really usable of a machine's plate, as it was looked at on a day: dead
// strips at its edges (mm), how tall a piece may be and still come out (HeightMM, nil where that
// was not tried), and spots where nothing is to be printed. It is appended; one that was wrong is
// taken back.
type PlateSurvey struct {
	ID           string   `json:"id" required:"false" readOnly:"true"`
	MachineID    string   `json:"machine_id" required:"false" readOnly:"true"`
	AtMS         int64    `json:"at_ms" required:"false"`
	LeftMM       float64  `json:"left_mm" minimum:"0"`
	RightMM      float64  `json:"right_mm" minimum:"0"`
	FrontMM      float64  `json:"front_mm" minimum:"0"`
	BackMM       float64  `json:"back_mm" minimum:"0"`
	HeightMM     *float64 `json:"height_mm" required:"false" exclusiveMinimum:"0"`
	Spots        Spots    `json:"spots" required:"false" maxItems:"200"`
	Note         string   `json:"note" required:"false"`
	TakenBackMS  *int64   `json:"taken_back_ms" required:"false" readOnly:"true"`
	TakenBackWhy string   `json:"taken_back_why" required:"false" readOnly:"true"`
}

// PlateSpot is a round place of a plate where nothing is to be printed, from its front left
// corner, in mm, and why: a dead pixel, a scratch, a weak corner.
type PlateSpot struct {
	XMM      float64 `json:"x_mm" minimum:"0"`
	YMM      float64 `json:"y_mm" minimum:"0"`
	RadiusMM float64 `json:"radius_mm" exclusiveMinimum:"0"`
	What     string  `json:"what" required:"false"`
}

// Spots are the spots of a plate.
type Spots []PlateSpot

// Value stores the spots as JSON text.
func (s Spots) Value() (driver.Value, error) { return listValue(s) }

// Scan reads what Value stored.
func (s *Spots) Scan(from any) error { return scanList(from, s) }

// Check says what makes no sense about a survey of a machine's plate.
func (s PlateSurvey) Check(m Machine) error {
	var c quantity.Checks
	c.NotBelow("left_mm", s.LeftMM)
	c.NotBelow("right_mm", s.RightMM)
	c.NotBelow("front_mm", s.FrontMM)
	c.NotBelow("back_mm", s.BackMM)
	c.AboveIf("height_mm", s.HeightMM)
	if s.LeftMM+s.RightMM >= m.WidthMM {
		c.Fail("right_mm", "leaves nothing of the %g mm of the plate, with what is dead at the left", m.WidthMM)
	}
	if s.FrontMM+s.BackMM >= m.DepthMM {
		c.Fail("back_mm", "leaves nothing of the %g mm of the plate, with what is dead at the front", m.DepthMM)
	}
	for i, spot := range s.Spots {
		at := fmt.Sprintf("spots[%d].", i)
		c.Above(at+"radius_mm", spot.RadiusMM)
		if spot.XMM < 0 || spot.XMM > m.WidthMM {
			c.Fail(at+"x_mm", "is %g; the plate is %g mm wide", spot.XMM, m.WidthMM)
		}
		if spot.YMM < 0 || spot.YMM > m.DepthMM {
			c.Fail(at+"y_mm", "is %g; the plate is %g mm deep", spot.YMM, m.DepthMM)
		}
	}
	return c.Err()
}

// Usable is what may be used of a machine's plate. Verified is the survey that says so, nil where
// the plate was not surveyed: then it is as claimed.
type Usable struct {
	WidthMM  float64      `json:"width_mm"`
	DepthMM  float64      `json:"depth_mm"`
	HeightMM float64      `json:"height_mm"`
	Spots    Spots        `json:"spots"`
	Verified *PlateSurvey `json:"verified"`
	Says     string       `json:"says"`
}

// UsableOf is what may be used of a machine's plate: what the newest survey says that was not
// taken back. Its spots are of a panel, and hold until another panel or light engine was put in
// (panelMS, 0 for never).
func UsableOf(m Machine, surveys []PlateSurvey, panelMS int64) Usable {
	out := Usable{WidthMM: m.WidthMM, DepthMM: m.DepthMM, HeightMM: m.HeightMM, Spots: Spots{}}
	for _, s := range surveys {
		if s.TakenBackMS == nil && (out.Verified == nil || s.AtMS >= out.Verified.AtMS) {
			out.Verified = &s
		}
	}
	if v := out.Verified; v != nil {
		out.WidthMM, out.DepthMM, out.HeightMM = m.WidthMM-v.LeftMM-v.RightMM, m.DepthMM-v.FrontMM-v.BackMM, quantity.Or(v.HeightMM, m.HeightMM)
		if panelMS <= v.AtMS {
			out.Spots = append(out.Spots, v.Spots...)
		}
	}
	return out
}

// Plate is the machine's plate with what is dead of it, for pieces to be laid on.
func (u Usable) Plate(m Machine) plan.Plate {
	out := plan.Plate{WidthMM: m.WidthMM, DepthMM: m.DepthMM, HeightMM: u.HeightMM}
	if v := u.Verified; v != nil {
		out.Dead = plan.Strips{LeftMM: v.LeftMM, RightMM: v.RightMM, FrontMM: v.FrontMM, BackMM: v.BackMM}
	}
	for _, s := range u.Spots {
		out.Spots = append(out.Spots, plan.Spot{XMM: s.XMM, YMM: s.YMM, RadiusMM: s.RadiusMM})
	}
	return out
}

// PanelKinds are the knots after which the panel or light engine is another one.
var PanelKinds = []string{"panel"}

// Named is what a spot is called, or that it is dead.
func (s PlateSpot) Named() string {
	if what := strings.TrimSpace(s.What); what != "" {
		return what
	}
	return "dead spot"
}
