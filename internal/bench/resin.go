package bench

import (
	"ojime/internal/core/machine"
	"ojime/internal/core/quantity"
)

// Resin is a material as sold: by volume (ml) or by mass (g) and density.
type Resin struct {
	ID               string   `json:"id" required:"false" readOnly:"true"`
	Code             string   `json:"code" required:"false" readOnly:"true"`
	Version          int64    `json:"version" required:"false"`
	CreatedMS        int64    `json:"created_ms" required:"false" readOnly:"true"`
	Name             string   `json:"name" minLength:"1"`
	Maker            string   `json:"maker"`
	Family           string   `json:"family"`
	Colour           string   `json:"colour"`
	DensityGML       *float64 `json:"density_g_ml" required:"false" exclusiveMinimum:"0"`
	BottleML         *float64 `json:"bottle_ml" required:"false" exclusiveMinimum:"0"`
	BottleG          *float64 `json:"bottle_g" required:"false" exclusiveMinimum:"0"`
	PriceList        float64  `json:"price_list" minimum:"0"`
	PriceDiscount    float64  `json:"price_discount" minimum:"0"`
	PriceShipping    float64  `json:"price_shipping" minimum:"0"`
	PriceTaxPct      float64  `json:"price_tax_pct" minimum:"0"`
	PriceTaxIncluded bool     `json:"price_tax_included"`
	StatedWashS      *float64 `json:"stated_wash_s" required:"false" minimum:"0"`
	StatedCureS      *float64 `json:"stated_cure_s" required:"false" minimum:"0"`
	Notes            string   `json:"notes"`
	// Claims is what the maker says of it, sentence by sentence.
	Claims Notes `json:"claims" required:"false"`
	// PrintsFromC and PrintsToC are the temperatures that its maker states for printing.
	PrintsFromC *float64 `json:"prints_from_c" required:"false"`
	PrintsToC   *float64 `json:"prints_to_c" required:"false"`
}

// Window are the temperatures that it is stated to print at.
func (r Resin) Window() machine.Window { return machine.Window{FromC: r.PrintsFromC, ToC: r.PrintsToC} }

// ResinWeighing is a volume of a resin on the balance, at a temperature where it was noted.
// It is appended; one that was wrong is taken back.
type ResinWeighing struct {
	ID          string   `json:"id" required:"false" readOnly:"true"`
	ResinID     string   `json:"resin_id" required:"false" readOnly:"true"`
	BottleID    *string  `json:"bottle_id" required:"false"`
	AtMS        int64    `json:"at_ms" required:"false" readOnly:"true"`
	MassG       float64  `json:"mass_g" exclusiveMinimum:"0"`
	VolumeML    float64  `json:"volume_ml" exclusiveMinimum:"0"`
	TempC       *float64 `json:"temp_c" required:"false"`
	TakenBackMS *int64   `json:"taken_back_ms" required:"false" readOnly:"true"`
}

// DensityGML is its mass by its volume in g/ml.
func (w ResinWeighing) DensityGML() float64 { return w.MassG / w.VolumeML }

// Check reports a mass or volume that is none.
func (w ResinWeighing) Check() error {
	var c quantity.Checks
	c.Above("mass_g", w.MassG)
	c.Above("volume_ml", w.VolumeML)
	return c.Err()
}

// Bottle is one bottle of a resin; days are YYYY-MM-DD.
type Bottle struct {
	ID        string   `json:"id" required:"false" readOnly:"true"`
	Code      string   `json:"code" required:"false" readOnly:"true"`
	Version   int64    `json:"version" required:"false"`
	CreatedMS int64    `json:"created_ms" required:"false" readOnly:"true"`
	ResinID   string   `json:"resin_id" minLength:"1"`
	Lot       string   `json:"lot"`
	OpenedOn  *string  `json:"opened_on" required:"false"`
	ExpiresOn *string  `json:"expires_on" required:"false"`
	TareG     *float64 `json:"tare_g" required:"false" minimum:"0"`
}
