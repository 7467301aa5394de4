package bench

import (
	"database/sql/driver"
	"fmt"
	"slices"
	"strings"

	"ojime/internal/core/photo"
	"ojime/internal/core/quantity"
	"ojime/internal/say"
)

// UnitFile is the very unit of a machine that was tried: how it came, what was in the box, which
// films were to be peeled or kept before the first print, what it takes, how open it is, how its
// vendor answered, and what the box claims. Lengths in mm, mass in kg; nil is not known. A machine
// has one at most.
type UnitFile struct {
	ID           string   `json:"id" required:"false" readOnly:"true"`
	MachineID    string   `json:"machine_id" required:"false" readOnly:"true"`
	Version      int64    `json:"version" required:"false"`
	CreatedMS    int64    `json:"created_ms" required:"false" readOnly:"true"`
	Status       string   `json:"status" enum:",retail,lent,pre_production,first_batch,used"`
	ReceivedOn   *string  `json:"received_on" required:"false"`
	Revision     string   `json:"revision" required:"false"`
	Serial       string   `json:"serial" required:"false"`
	Firmware     string   `json:"firmware" required:"false"`
	BodyWidthMM  *float64 `json:"body_width_mm" required:"false" exclusiveMinimum:"0"`
	BodyDepthMM  *float64 `json:"body_depth_mm" required:"false" exclusiveMinimum:"0"`
	BodyHeightMM *float64 `json:"body_height_mm" required:"false" exclusiveMinimum:"0"`
	LidOpenMM    *float64 `json:"lid_open_mm" required:"false" exclusiveMinimum:"0"`
	MassKG       *float64 `json:"mass_kg" required:"false" exclusiveMinimum:"0"`
	Contents     Contents `json:"contents" required:"false" maxItems:"100"`
	Peels        Peels    `json:"peels" required:"false" maxItems:"30"`
	Ports        Ports    `json:"ports" required:"false" maxItems:"30"`
	Openness     Openness `json:"openness" required:"false" maxItems:"30"`
	Contacts     Contacts `json:"contacts" required:"false" maxItems:"100"`
	Claimed      Claims   `json:"claimed" required:"false" maxItems:"100"`
	Note         string   `json:"note" required:"false"`
	// UnpackMin is how long someone unpacked and set it up before its first print, SetUpBy who:
	// how experienced.
	UnpackMin *float64 `json:"unpack_min" required:"false" minimum:"0"`
	SetUpBy   string   `json:"set_up_by" required:"false"`
}

// BoxContent is a thing that belongs in the box: how many, and how it was found.
type BoxContent struct {
	What  string `json:"what" minLength:"1"`
	Count int64  `json:"count" minimum:"1" maximum:"1000"`
	Found string `json:"found" enum:"there,missing,broken,not_looked"`
	Note  string `json:"note" required:"false"`
}

// Peel is a film or a lock that must come off, or stay on, before the first print; DoneMS is when
// that was confirmed.
type Peel struct {
	What   string `json:"what" minLength:"1"`
	Keep   bool   `json:"keep" required:"false"`
	DoneMS *int64 `json:"done_ms" required:"false"`
}

// UnitPort is a way in: whether it was seen, tried, or is in daily use.
type UnitPort struct {
	What  string `json:"what" minLength:"1"`
	State string `json:"state" enum:"absent,present,tested,used"`
	Note  string `json:"note" required:"false"`
}

// UnitOpenness is a fact of how open a machine is: yes, partly, no, or not known.
type UnitOpenness struct {
	What   string `json:"what" minLength:"1"`
	Answer string `json:"answer" enum:"yes,partly,no,unknown"`
	Note   string `json:"note" required:"false"`
}

// VendorContact is a question to the vendor: asked and answered when, nil for not yet, and whether that
// solved it.
type VendorContact struct {
	About      string `json:"about" minLength:"1"`
	AskedMS    int64  `json:"asked_ms"`
	AnsweredMS *int64 `json:"answered_ms" required:"false"`
	Solved     string `json:"solved" enum:",yes,partly,no"`
	How        string `json:"how" required:"false"`
}

// UnitClaim is what is claimed of a machine, and where that stands.
type UnitClaim struct {
	Says   string `json:"says" minLength:"1"`
	Source string `json:"source" minLength:"1"`
}

// Lists of a unit file, each kept as JSON text in one column.
type (
	Contents []BoxContent
	Peels    []Peel
	Ports    []UnitPort
	Openness []UnitOpenness
	Contacts []VendorContact
	Claims   []UnitClaim
)

// Value stores the list as JSON text.
func (l Contents) Value() (driver.Value, error) { return listValue(l) }

// Scan reads what Value stored.
func (l *Contents) Scan(from any) error { return scanList(from, l) }

// Value stores the list as JSON text.
func (l Peels) Value() (driver.Value, error) { return listValue(l) }

// Scan reads what Value stored.
func (l *Peels) Scan(from any) error { return scanList(from, l) }

// Value stores the list as JSON text.
func (l Ports) Value() (driver.Value, error) { return listValue(l) }

// Scan reads what Value stored.
func (l *Ports) Scan(from any) error { return scanList(from, l) }

// Value stores the list as JSON text.
func (l Openness) Value() (driver.Value, error) { return listValue(l) }

// Scan reads what Value stored.
func (l *Openness) Scan(from any) error { return scanList(from, l) }

// Value stores the list as JSON text.
func (l Contacts) Value() (driver.Value, error) { return listValue(l) }

// Scan reads what Value stored.
func (l *Contacts) Scan(from any) error { return scanList(from, l) }

// Value stores the list as JSON text.
func (l Claims) Value() (driver.Value, error) { return listValue(l) }

// Scan reads what Value stored.
func (l *Claims) Scan(from any) error { return scanList(from, l) }

// Check says what makes no sense about a unit file.
func (u UnitFile) Check() error {
	var c quantity.Checks
	if u.ReceivedOn != nil {
		if _, known := quantity.Day(u.ReceivedOn); !known {
			c.Fail("received_on", "is %q; give a day such as 2026-09-01", *u.ReceivedOn)
		}
	}
	for _, v := range []struct {
		name string
		mm   *float64
	}{{"body_width_mm", u.BodyWidthMM}, {"body_depth_mm", u.BodyDepthMM}, {"body_height_mm", u.BodyHeightMM}, {"lid_open_mm", u.LidOpenMM}, {"mass_kg", u.MassKG}} {
		c.AboveIf(v.name, v.mm)
	}
	if u.UnpackMin != nil {
		c.NotBelow("unpack_min", *u.UnpackMin)
	}
	if u.LidOpenMM != nil && u.BodyHeightMM != nil && *u.LidOpenMM < *u.BodyHeightMM {
		c.Fail("lid_open_mm", "is less than the height of the closed machine, %g mm", *u.BodyHeightMM)
	}
	for i, k := range u.Contacts {
		if k.AnsweredMS != nil && *k.AnsweredMS < k.AskedMS {
			c.Fail(fmt.Sprintf("contacts[%d].answered_ms", i), "lies before the question; check both times")
		}
		if k.AnsweredMS == nil && k.Solved != "" {
			c.Fail(fmt.Sprintf("contacts[%d].solved", i), "is told of a question without an answer; enter when it was answered")
		}
	}
	return c.Err()
}

// StatusWords are how a unit came.
var StatusWords = map[string]string{"retail": "a retail unit", "lent": "a unit on loan", "pre_production": "a pre-production unit", "first_batch": "a unit of the first batch", "used": "a used unit"}

// Provenance is how a unit came and who has an interest in it, in words; empty where neither is
// known.
func (u UnitFile) Provenance(suppliedBy string) string {
	out := StatusWords[u.Status]
	if u.Revision != "" && out != "" {
		out += ", revision " + u.Revision
	}
	switch {
	case suppliedBy == "":
	case out == "":
		out = suppliedBy
	default:
		out += "; " + suppliedBy
	}
	return out
}

// Unpeeled are what must come off or stay on before the first print, and was not confirmed.
func (u UnitFile) Unpeeled() (out []string) {
	for _, p := range u.Peels {
		if p.DoneMS != nil {
			continue
		}
		if p.Keep {
			out = append(out, "keep on: "+p.What)
			continue
		}
		out = append(out, "take off: "+p.What)
	}
	return out
}

// BoxWords are what was found in the box, in words; empty where nothing is listed.
func (u UnitFile) BoxWords() string {
	if len(u.Contents) == 0 {
		return ""
	}
	named := func(found string) []string {
		var out []string
		for _, c := range u.Contents {
			if c.Found == found {
				out = append(out, c.named())
			}
		}
		return out
	}
	out := fmt.Sprintf("%d of %s there", len(named("there")), say.Counted(int64(len(u.Contents)), "thing"))
	for _, found := range []string{"missing", "broken"} {
		if list := named(found); len(list) > 0 {
			out += "; " + found + ": " + say.List(list)
		}
	}
	if n := len(named("not_looked")); n > 0 {
		out += fmt.Sprintf("; %d not looked for", n)
	}
	return out
}

func (c BoxContent) named() string {
	out := c.What
	if c.Count > 1 {
		out = fmt.Sprintf("%d × %s", c.Count, c.What)
	}
	if c.Note != "" {
		out += " (" + c.Note + ")"
	}
	return out
}

// ContactWords are how the vendor answered, in words; empty where nobody asked.
func (u UnitFile) ContactWords() string {
	if len(u.Contacts) == 0 {
		return ""
	}
	var hours []float64
	solved := 0
	for _, k := range u.Contacts {
		if k.AnsweredMS != nil {
			hours = append(hours, float64(*k.AnsweredMS-k.AskedMS)/3_600_000)
		}
		if k.Solved == "yes" {
			solved++
		}
	}
	out := fmt.Sprintf("asked %s, answered %d", say.Counted(int64(len(u.Contacts)), "time"), len(hours))
	if len(hours) > 0 {
		slices.Sort(hours)
		out += fmt.Sprintf(" after %s h", say.Figure(hours[0]))
		if last := hours[len(hours)-1]; last > hours[0] {
			out = out[:len(out)-2] + fmt.Sprintf(" to %s h", say.Figure(last))
		}
	}
	return out + fmt.Sprintf(", solved %d", solved)
}

// OpenWords are the facts of how open it is, in words.
func (u UnitFile) OpenWords() string {
	var out []string
	for _, o := range u.Openness {
		word := o.What + ": " + o.Answer
		if o.Note != "" {
			word += " (" + o.Note + ")"
		}
		out = append(out, word)
	}
	return joined(out)
}

// PortWords are its ways in, in words.
func (u UnitFile) PortWords() string {
	var out []string
	for _, p := range u.Ports {
		word := p.What + " " + p.State
		if p.Note != "" {
			word += " (" + p.Note + ")"
		}
		out = append(out, word)
	}
	return joined(out)
}

// SizeWords are the size and mass of the unit, in words.
func (u UnitFile) SizeWords() string {
	var out []string
	if u.BodyWidthMM != nil && u.BodyDepthMM != nil && u.BodyHeightMM != nil {
		out = append(out, fmt.Sprintf("%s × %s × %s mm", say.Figures(*u.BodyWidthMM, 4), say.Figures(*u.BodyDepthMM, 4), say.Figures(*u.BodyHeightMM, 4)))
	}
	if u.LidOpenMM != nil {
		out = append(out, say.Figures(*u.LidOpenMM, 4)+" mm high with its lid open")
	}
	if u.MassKG != nil {
		out = append(out, say.Figure(*u.MassKG)+" kg")
	}
	return joined(out)
}

func joined(words []string) string {
	out := ""
	for i, w := range words {
		if i > 0 {
			out += "; "
		}
		out += w
	}
	return out
}

// UnitPhotograph is a picture of the very unit of a machine: what it Shows (what came in the box, a
// broken corner, the ports). Its files are named by their content, as a Photograph's are. It cannot be
// changed, only taken back.
type UnitPhotograph struct {
	ID             string `json:"id" required:"false" readOnly:"true"`
	Code           string `json:"code" required:"false" readOnly:"true"`
	CreatedMS      int64  `json:"created_ms" required:"false" readOnly:"true"`
	MachineID      string `json:"machine_id" required:"false" readOnly:"true"`
	Shows          string `json:"shows" minLength:"1"`
	Note           string `json:"note" required:"false"`
	FileName       string `json:"file_name" required:"false"`
	Kind           string `json:"kind" enum:"jpeg,png,webp"`
	FileBytes      int64  `json:"file_bytes" minimum:"1"`
	OriginalSHA256 string `json:"original_sha256"`
	CopySHA256     string `json:"copy_sha256"`
	SmallSHA256    string `json:"small_sha256"`
	WidthPX        int64  `json:"width_px" minimum:"1"`
	HeightPX       int64  `json:"height_px" minimum:"1"`
	CopyWidthPX    int64  `json:"copy_width_px" minimum:"1"`
	CopyHeightPX   int64  `json:"copy_height_px" minimum:"1"`
	TakenBackMS    *int64 `json:"taken_back_ms" required:"false" readOnly:"true"`
	TakenBackWhy   string `json:"taken_back_why" required:"false" readOnly:"true"`
	ErasedMS       *int64 `json:"erased_ms" required:"false" readOnly:"true"`
}

// Files are the names of its files by content; none once they were erased.
func (p UnitPhotograph) Files() []string { return p.Pictures().Names() }

// Pictures are its files.
func (p UnitPhotograph) Pictures() PictureFiles {
	return PictureFiles{p.Code, p.OriginalSHA256, p.CopySHA256, p.SmallSHA256, p.ErasedMS != nil}
}

// Check reports a picture of which nobody said what it shows, and files that are not named by a hash.
func (p UnitPhotograph) Check() error {
	var c quantity.Checks
	if strings.TrimSpace(p.Shows) == "" {
		c.Fail("shows", "is missing; say what is on the photograph")
	}
	c.OneOf("kind", p.Kind, photo.JPEG, photo.PNG, photo.WebP)
	for field, name := range map[string]string{"original_sha256": p.OriginalSHA256, "copy_sha256": p.CopySHA256, "small_sha256": p.SmallSHA256} {
		if len(name) != 64 {
			c.Fail(field, "is %.70q, which is no content hash", name)
		}
	}
	return c.Err()
}
