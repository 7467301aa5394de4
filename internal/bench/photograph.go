package bench

import (
	"cmp"
	"fmt"

	"ojime/internal/core/photo"
	"ojime/internal/core/quantity"
	"ojime/internal/core/viewing"
)

// Photograph is a picture of a specimen, or of a copy of a reference, with how it was taken.
// Its files are named by their content: the one that was received, and the copies made of
// it, turned upright and without tags. It cannot be changed, only taken back; Erased says
// that its files were removed too.
type Photograph struct {
	ID             string   `json:"id" required:"false" readOnly:"true"`
	Code           string   `json:"code" required:"false" readOnly:"true"`
	CreatedMS      int64    `json:"created_ms" required:"false" readOnly:"true"`
	SpecimenID     *string  `json:"specimen_id" required:"false"`
	ReferenceID    *string  `json:"reference_id" required:"false"`
	Copy           *int64   `json:"copy" required:"false" minimum:"1"`
	FeatureID      *string  `json:"feature_id" required:"false"`
	Station        string   `json:"station" enum:"table,arms_length,in_hand,loupe"`
	Magnification  *float64 `json:"magnification" required:"false" exclusiveMinimum:"1"`
	Stage          string   `json:"stage" enum:"raw,washed,cured,varnished,primed,painted"`
	Light          string   `json:"light" minLength:"1"`
	Note           string   `json:"note" required:"false"`
	FileName       string   `json:"file_name" required:"false"`
	Kind           string   `json:"kind" enum:"jpeg,png,webp"`
	FileBytes      int64    `json:"file_bytes" minimum:"1"`
	OriginalSHA256 string   `json:"original_sha256"`
	CopySHA256     string   `json:"copy_sha256"`
	SmallSHA256    string   `json:"small_sha256"`
	WidthPX        int64    `json:"width_px" minimum:"1"`
	HeightPX       int64    `json:"height_px" minimum:"1"`
	CopyWidthPX    int64    `json:"copy_width_px" minimum:"1"`
	CopyHeightPX   int64    `json:"copy_height_px" minimum:"1"`
	Blur           float64  `json:"blur" minimum:"0" maximum:"1"`
	TakenBackMS    *int64   `json:"taken_back_ms" required:"false" readOnly:"true"`
	TakenBackWhy   string   `json:"taken_back_why" required:"false" readOnly:"true"`
	ErasedMS       *int64   `json:"erased_ms" required:"false" readOnly:"true"`
	DefectID       *string  `json:"defect_id" required:"false"`
}

// View is how the photograph was taken.
func (p Photograph) View() viewing.View {
	return viewing.View{Station: p.Station, Magnification: p.Magnification, Stage: p.Stage, Light: p.Light}
}

// Check reports a photograph of nothing or of two things, one without how it was taken, and
// files that are not named by a hash.
func (p Photograph) Check() error {
	var c quantity.Checks
	switch {
	case (p.SpecimenID != nil) == (p.ReferenceID != nil):
		c.Fail("specimen_id", "or reference_id is needed, and not both; say what is on the photograph")
	case (p.ReferenceID != nil) != (p.Copy != nil):
		c.Fail("copy", "is needed with a reference, and with it alone")
	}
	c.OneOf("kind", p.Kind, photo.JPEG, photo.PNG, photo.WebP)
	for field, name := range map[string]string{"original_sha256": p.OriginalSHA256, "copy_sha256": p.CopySHA256, "small_sha256": p.SmallSHA256} {
		if len(name) != 64 {
			c.Fail(field, "is %.70q, which is no content hash", name)
		}
	}
	return cmp.Or(c.Err(), p.View().Check())
}

// PictureFiles are the files of a photograph of any kind, named by their content: the one that was
// received, and the copies made of it. Erased says that they were removed.
type PictureFiles struct {
	Code, OriginalSHA256, CopySHA256, SmallSHA256 string
	Erased                                        bool
}

// Names are those of the files; none once they were erased.
func (p PictureFiles) Names() []string {
	if p.Erased {
		return nil
	}
	return []string{p.OriginalSHA256, p.CopySHA256, p.SmallSHA256}
}

// Files are the names of its files by content; none once they were erased.
func (p Photograph) Files() []string { return p.Pictures().Names() }

// Pictures are its files.
func (p Photograph) Pictures() PictureFiles {
	return PictureFiles{p.Code, p.OriginalSHA256, p.CopySHA256, p.SmallSHA256, p.ErasedMS != nil}
}

// Specimen is the id of what is on it among specimens, a copy of a reference too.
func (p Photograph) Specimen() string {
	if p.ReferenceID != nil {
		return Reference{ID: *p.ReferenceID}.SpecimenID(*p.Copy)
	}
	return *p.SpecimenID
}

// PhotoMeasure is what was measured on a photograph along a line, in pixels of the picture as
// it was received and turned upright: a known length, which gives the scale of the
// photograph, a length, an edge or a period of lines. It is appended; the last scale counts.
type PhotoMeasure struct {
	ID           string   `json:"id" required:"false" readOnly:"true"`
	PhotographID string   `json:"photograph_id" required:"false" readOnly:"true"`
	CreatedMS    int64    `json:"created_ms" required:"false" readOnly:"true"`
	Kind         string   `json:"kind" enum:"scale,length,edge,period"`
	FromXPX      float64  `json:"from_x_px"`
	FromYPX      float64  `json:"from_y_px"`
	ToXPX        float64  `json:"to_x_px"`
	ToYPX        float64  `json:"to_y_px"`
	KnownMM      *float64 `json:"known_mm" required:"false" exclusiveMinimum:"0"`
	KnownUMM     *float64 `json:"known_u_mm" required:"false" minimum:"0"`
	SizePX       float64  `json:"size_px" required:"false" readOnly:"true"`
	UPX          float64  `json:"u_px" required:"false" readOnly:"true"`
	RipplePX     *float64 `json:"ripple_px" required:"false" readOnly:"true"`
	N            int64    `json:"n" required:"false" readOnly:"true"`
	TakenBackMS  *int64   `json:"taken_back_ms" required:"false" readOnly:"true"`
	TakenBackWhy string   `json:"taken_back_why" required:"false" readOnly:"true"`
}

// Line is where it was measured.
func (m PhotoMeasure) Line() photo.Line {
	return photo.Line{FromX: m.FromXPX, FromY: m.FromYPX, ToX: m.ToXPX, ToY: m.ToYPX}
}

// Check reports a measure of no kind, and a scale without its known length.
func (m PhotoMeasure) Check() error {
	var c quantity.Checks
	c.OneOf("kind", m.Kind, "scale", "length", "edge", "period")
	if (m.Kind == "scale") != (m.KnownMM != nil) || (m.KnownMM == nil) != (m.KnownUMM == nil) {
		c.Fail("known_mm", "and its uncertainty belong to a scale, and a scale needs them")
	}
	return c.Err()
}

// Measured is what was measured on a photograph in mm by its scale, with the standard
// uncertainty; nil while it has no scale.
//
// ExpandedPX and ExpandedMM are the expanded uncertainty (k = 2), of a scale that of the known
// length.
type Measured struct {
	PhotoMeasure
	ExpandedPX float64  `json:"expanded_px"`
	ExpandedMM *float64 `json:"expanded_mm"`
	SizeMM     *float64 `json:"size_mm"`
	UMM        *float64 `json:"u_mm"`
	RippleMM   *float64 `json:"ripple_mm"`
}

// Pictured is a photograph with what was measured on it, by the scale set last. MMPerPX is
// nil while it has none; Blurred says that it should be taken again.
type Pictured struct {
	Photograph
	Blurred  bool       `json:"blurred"`
	MMPerPX  *float64   `json:"mm_per_px"`
	Measures []Measured `json:"measures"`
}

// WithMeasures puts a photograph together with what was measured on it, in the order in
// which it was; what was taken back is left out.
func (p Photograph) WithMeasures(all []PhotoMeasure) (Pictured, error) {
	out := Pictured{Photograph: p, Blurred: p.Blur > photo.TooBlurred, Measures: []Measured{}}
	var known *photo.KnownLength
	for _, m := range all {
		if m.PhotographID != p.ID || m.TakenBackMS != nil {
			continue
		}
		if m.Kind == "scale" {
			known = &photo.KnownLength{MM: *m.KnownMM, UMM: *m.KnownUMM, PX: m.SizePX}
			out.MMPerPX = quantity.Ptr(*m.KnownMM / m.SizePX)
		}
		out.Measures = append(out.Measures, Measured{PhotoMeasure: m, ExpandedPX: 2 * m.UPX})
	}
	if known == nil {
		return out, nil
	}
	for i := range out.Measures {
		m := &out.Measures[i]
		size, err := photo.OnPhoto{SizePX: m.SizePX, UPX: m.UPX, RipplePX: m.RipplePX, N: m.N}.InMM(*known)
		if err != nil {
			return out, fmt.Errorf("measure %s of photograph %s: %w", m.ID, p.Code, err)
		}
		m.SizeMM, m.UMM, m.RippleMM, m.ExpandedMM = &size.SizeMM, &size.UMM, size.RippleMM, quantity.Ptr(2*size.UMM)
		if m.Kind == "scale" {
			m.ExpandedMM = quantity.Ptr(2 * *m.KnownUMM)
		}
	}
	return out, nil
}
