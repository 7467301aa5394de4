package bench

import (
	"database/sql/driver"
	"strings"

	"ojime/internal/core/edition"
	"ojime/internal/core/quantity"
)

// Publication is a version of a review as it went out: its text, plots and figures are frozen. Questioned is how many places in
// it were questioned, Why the reason for which it went out over them. Errata are added, each with its day and reason, and
// change nothing of it.
type Publication struct {
	ID         string           `json:"id" required:"false" readOnly:"true"`
	Version    int64            `json:"version" required:"false"`
	ReviewID   string           `json:"review_id" required:"false" readOnly:"true"`
	Number     int64            `json:"number" required:"false" readOnly:"true"`
	AtMS       int64            `json:"at_ms" required:"false" readOnly:"true"`
	Title      string           `json:"title" maxLength:"2000"`
	Text       string           `json:"text" maxLength:"4000000"`
	Plots      PublishedPlots   `json:"plots"`
	Figures    PublishedFigures `json:"figures"`
	Prints     int64            `json:"prints"`
	Questioned int64            `json:"questioned"`
	Why        string           `json:"why" maxLength:"1000"`
	Errata     Errata           `json:"errata"`
	// Pictures are the photographs that it shows.
	Pictures PublishedPictures `json:"pictures" required:"false"`
}

// PublishedPicture is a photograph of a publication: the name by which its text calls it, and its file by content.
type PublishedPicture struct {
	Name   string `json:"name" maxLength:"80"`
	SHA256 string `json:"sha256" maxLength:"64"`
}

// PublishedPlot is a plot of a publication, as SVG in HTML.
type PublishedPlot struct {
	Drawing string `json:"drawing" maxLength:"400000"`
}

// Erratum is a correction of a publication: what was wrong or is added, and why.
type Erratum struct {
	AtMS int64  `json:"at_ms" required:"false" readOnly:"true"`
	Says string `json:"says" minLength:"1" maxLength:"1000"`
	Why  string `json:"why" minLength:"1" maxLength:"1000"`
}

// Lists of a publication, each kept as JSON text in one column.
type (
	PublishedPlots    []PublishedPlot
	PublishedPictures []PublishedPicture
	PublishedFigures  []edition.Figure
	Errata            []Erratum
)

// Value stores the list as JSON text.
func (l PublishedPlots) Value() (driver.Value, error) { return listValue(l) }

// Scan reads what Value stored.
func (l *PublishedPlots) Scan(from any) error { return scanList(from, l) }

// Value stores the list as JSON text.
func (l PublishedFigures) Value() (driver.Value, error) { return listValue(l) }

// Scan reads what Value stored.
func (l *PublishedFigures) Scan(from any) error { return scanList(from, l) }

// Value stores the list as JSON text.
func (l Errata) Value() (driver.Value, error) { return listValue(l) }

// Scan reads what Value stored.
func (l *Errata) Scan(from any) error { return scanList(from, l) }

// Check says what makes no sense about an erratum.
func (e Erratum) Check() error {
	var c quantity.Checks
	if strings.TrimSpace(e.Says) == "" {
		c.Fail("says", "is missing; say what was wrong, and what is right")
	}
	if strings.TrimSpace(e.Why) == "" {
		c.Fail("why", "is missing; say how it came to light")
	}
	return c.Err()
}

// Value stores the list as JSON text.
func (l PublishedPictures) Value() (driver.Value, error) { return listValue(l) }

// Scan reads what Value stored.
func (l *PublishedPictures) Scan(from any) error { return scanList(from, l) }
