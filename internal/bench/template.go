package bench

import (
	"database/sql/driver"
	"fmt"
	"strings"
	"unicode/utf8"

	"ojime/internal/core/quantity"
)

// Workroom is a room that machines stand in, with what it is usually like: °C, relative humidity
// in %, whether a heater is on; nil is not known. Its name is what the knots of machines refer to
// and does not change. A room that is not used any more is retired.
type Workroom struct {
	ID          string   `json:"id" required:"false" readOnly:"true"`
	Code        string   `json:"code" required:"false" readOnly:"true"`
	Version     int64    `json:"version" required:"false"`
	CreatedMS   int64    `json:"created_ms" required:"false" readOnly:"true"`
	Name        string   `json:"name" minLength:"1" maxLength:"60"`
	RoomTempC   *float64 `json:"room_temp_c" required:"false"`
	HumidityPct *float64 `json:"humidity_pct" required:"false" minimum:"0" maximum:"100"`
	HeaterOn    *bool    `json:"heater_on" required:"false"`
	Note        string   `json:"note" required:"false"`
	RetiredMS   *int64   `json:"retired_ms" required:"false" readOnly:"true"`
}

// Check says what makes no sense about a room.
func (r Workroom) Check() error {
	var c quantity.Checks
	if strings.TrimSpace(r.Name) == "" {
		c.Fail("name", "is missing; say what the room is called")
	}
	checkTemperature(&c, "room_temp_c", r.RoomTempC)
	checkHumidity(&c, r.HumidityPct)
	return c.Err()
}

// Checklist is what is looked at on every piece of a kind (figure, bust, vehicle).
type Checklist struct {
	ID          string      `json:"id" required:"false" readOnly:"true"`
	Code        string      `json:"code" required:"false" readOnly:"true"`
	Version     int64       `json:"version" required:"false"`
	CreatedMS   int64       `json:"created_ms" required:"false" readOnly:"true"`
	Kind        string      `json:"kind" minLength:"1" maxLength:"60"`
	Checkpoints Checkpoints `json:"checkpoints" maxItems:"100"`
}

// Checkpoint is a place that is looked at, by its name, and where it is.
type Checkpoint struct {
	Name  string `json:"name" minLength:"1"`
	Place string `json:"place" required:"false"`
}

// Checkpoints are those of a checklist, in the order in which they are looked at.
type Checkpoints []Checkpoint

// Value stores the checkpoints as JSON text.
func (l Checkpoints) Value() (driver.Value, error) { return listValue(l) }

// Scan reads what Value stored.
func (l *Checkpoints) Scan(from any) error { return scanList(from, l) }

// Check reports a list without a kind, and checkpoints without a name or of one name.
func (l Checklist) Check() error {
	var c quantity.Checks
	if strings.TrimSpace(l.Kind) == "" {
		c.Fail("kind", "is missing; say which kind of piece the list is for")
	}
	if err := CheckKind(l.Kind); err != nil {
		return err
	}
	seen := map[string]bool{}
	for i, p := range l.Checkpoints {
		name := strings.ToLower(strings.TrimSpace(p.Name))
		switch {
		case name == "":
			c.Fail(fmt.Sprintf("checkpoints[%d].name", i), "is missing; name what is looked at")
		case seen[name]:
			c.Fail(fmt.Sprintf("checkpoints[%d].name", i), "is %q once more; give each checkpoint a name of its own", p.Name)
		}
		seen[name] = true
	}
	return c.Err()
}

// Beside are the checkpoints of the list that a piece does not have yet, by their names, as
// features of it that have no id yet.
func (l Checklist) Beside(features []Feature) []Feature {
	known := map[string]bool{}
	for _, f := range features {
		known[strings.ToLower(strings.TrimSpace(f.Name))] = true
	}
	out := []Feature{}
	for _, p := range l.Checkpoints {
		if !known[strings.ToLower(strings.TrimSpace(p.Name))] {
			out = append(out, Feature{Kind: "checkpoint", Name: p.Name, Place: p.Place, RungsMM: Sizes{}})
		}
	}
	return out
}

// mostKind bounds the word for a kind of piece, in characters.
const mostKind = 60

// CheckKind reports a word for a kind of piece that is none.
func CheckKind(kind string) error {
	if n := utf8.RuneCountInString(strings.TrimSpace(kind)); n > mostKind {
		return quantity.Errorf("kind", "has %d characters; write a word of up to %d", n, mostKind)
	}
	return nil
}

// SameKind reports two words for a kind of piece that differ in capitals and blanks alone.
func SameKind(a, b string) bool {
	return strings.EqualFold(strings.TrimSpace(a), strings.TrimSpace(b))
}

// BeginsWith gives new settings what the template t says and they do not: moves, waits, layers
// at the bottom, light power and options; the exposures too, where both are for one resin at one
// layer height. Hidden settings are given none.
func (p *Profile) BeginsWith(t Profile) {
	if p.Basis == "sealed" || t.Basis == "sealed" {
		return
	}
	if len(p.Lift) == 0 && len(p.Retract) == 0 {
		p.Lift, p.Retract = t.Lift, t.Retract
	}
	if len(p.Options) == 0 {
		p.Options = t.Options
	}
	if p.Antialiasing == "" {
		p.Antialiasing = t.Antialiasing
	}
	into := map[**float64]*float64{&p.ReleaseS: t.ReleaseS, &p.WaitBeforeS: t.WaitBeforeS, &p.WaitAfterS: t.WaitAfterS, &p.WaitLiftS: t.WaitLiftS, &p.LightPowerPct: t.LightPowerPct}
	if p.ResinID == t.ResinID && quantity.Equal(p.LayerUM, t.LayerUM) {
		into[&p.ExposureS], into[&p.BottomExposureS] = t.ExposureS, t.BottomExposureS
	}
	for field, value := range into {
		if *field == nil {
			*field = value
		}
	}
	for field, value := range map[**int64]*int64{&p.BottomLayers: t.BottomLayers, &p.TransitionLayers: t.TransitionLayers} {
		if *field == nil {
			*field = value
		}
	}
}

// TemplateOf are the settings that new ones of a machine begin with: of those that were made so and
// are not withdrawn, the last; nil where there are none.
func TemplateOf(profiles []Profile, machineID string) *Profile {
	var out *Profile
	for i, p := range profiles {
		if p.MachineID == machineID && p.TemplateSinceMS != nil && p.ArchivedMS == nil && (out == nil || *out.TemplateSinceMS <= *p.TemplateSinceMS) {
			out = &profiles[i]
		}
	}
	return out
}
