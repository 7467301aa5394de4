package bench

import (
	"crypto/sha256"
	"database/sql/driver"
	"encoding/hex"
	"encoding/json"
)

// Piece is a model that is printed to test, with the facts of its mesh.
// OutlineMM2 is the outline length integrated over the height.
type Piece struct {
	ID               string       `json:"id" required:"false" readOnly:"true"`
	Code             string       `json:"code" required:"false" readOnly:"true"`
	Version          int64        `json:"version" required:"false"`
	CreatedMS        int64        `json:"created_ms" required:"false" readOnly:"true"`
	Name             string       `json:"name" minLength:"1"`
	Revision         string       `json:"revision"`
	MeshSHA256       string       `json:"mesh_sha256"`
	FileName         string       `json:"file_name"`
	Format           string       `json:"format"`
	Triangles        int64        `json:"triangles" minimum:"1"`
	SizeXMM          float64      `json:"size_x_mm"`
	SizeYMM          float64      `json:"size_y_mm"`
	SizeZMM          float64      `json:"size_z_mm"`
	SurfaceMM2       float64      `json:"surface_mm2"`
	VolumeML         float64      `json:"volume_ml"`
	Shells           int64        `json:"shells"`
	OpenEdges        int64        `json:"open_edges"`
	NonmanifoldEdges int64        `json:"nonmanifold_edges"`
	MeshWarnings     Notes        `json:"mesh_warnings"`
	SupportPct       float64      `json:"support_pct" minimum:"0"`
	OutlineMM2       float64      `json:"outline_mm2" minimum:"0"`
	SupportML        float64      `json:"support_ml" required:"false" minimum:"0"`
	RaftML           float64      `json:"raft_ml" required:"false" minimum:"0"`
	HollowWallMM     *float64     `json:"hollow_wall_mm" required:"false" exclusiveMinimum:"0"`
	HollowML         float64      `json:"hollow_ml" required:"false" minimum:"0"`
	FinestMM         *float64     `json:"finest_mm" required:"false" exclusiveMinimum:"0"`
	ReliefMM         *float64     `json:"relief_mm" required:"false" exclusiveMinimum:"0"`
	Coupon           CouponChoice `json:"coupon" required:"false"`
	Geometry         Geometry     `json:"geometry" required:"false"`
	// Kind is what sort of model it is, in the reviewer's word: figure, bust, vehicle.
	Kind string `json:"kind" required:"false" maxLength:"60"`
}

// Assembly is pieces that are one model, printed in parts: its time, resin, cost,
// completeness and failures are those of the whole.
type Assembly struct {
	ID        string `json:"id" required:"false" readOnly:"true"`
	Code      string `json:"code" required:"false" readOnly:"true"`
	Version   int64  `json:"version" required:"false"`
	CreatedMS int64  `json:"created_ms" required:"false" readOnly:"true"`
	Name      string `json:"name" minLength:"1"`
	Note      string `json:"note" required:"false"`
	Parts     Parts  `json:"parts" minItems:"1"`
}

// Part is a piece of an assembly, and how many of it the whole needs.
type Part struct {
	PieceID string `json:"piece_id" minLength:"1"`
	Copies  int64  `json:"copies" minimum:"1"`
}

// Parts are the pieces of an assembly.
type Parts []Part

// Value stores the parts as JSON text.
func (p Parts) Value() (driver.Value, error) { return listValue(p) }

// Scan reads what Value stored.
func (p *Parts) Scan(from any) error { return scanList(from, p) }

// Feature is what is measured on a piece: a dimension (nominal, axis, outer or inner face), a
// ladder of pins or gaps with its rungs, or a checkpoint at a place.
type Feature struct {
	ID        string   `json:"id" required:"false" readOnly:"true"`
	PieceID   string   `json:"piece_id" required:"false" readOnly:"true"`
	Position  int64    `json:"position" required:"false"`
	Kind      string   `json:"kind" enum:"dimension,pins,gaps,checkpoint"`
	Name      string   `json:"name" minLength:"1"`
	NominalMM *float64 `json:"nominal_mm" required:"false" exclusiveMinimum:"0"`
	Axis      *string  `json:"axis" required:"false" enum:"x,y,z"`
	Face      *string  `json:"face" required:"false" enum:"outer,inner"`
	RungsMM   Sizes    `json:"rungs_mm"`
	Place     string   `json:"place"`
	RetiredMS *int64   `json:"retired_ms" required:"false"`
	Shape     string   `json:"shape" required:"false"`
}

// VersionOf names a list of features as it stands: any change of one gives another
// version. It is what a change of the list carries, since features have none of
// their own.
func VersionOf(features []Feature) string {
	text, err := json.Marshal(features)
	if err != nil {
		return "" // a number that cannot be written; such a list cannot be changed against
	}
	sum := sha256.Sum256(text)
	return hex.EncodeToString(sum[:8])
}
