package api

import (
	"context"
	"net/http"
	"net/url"
	"strings"

	"rsc.io/qr"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/work/kit"
	"ojime/internal/work/planning"
)

type plateBody struct {
	ID   string `path:"id"`
	Body planning.PlateDraft
}

// packBody is a plate and what is to be laid on it besides.
type packBody struct {
	Plate      bench.Plate       `json:"plate"`
	Placements []bench.Placement `json:"placements"`
	More       *planning.Packing `json:"more" required:"false"`
}

type fillQuery struct {
	PieceID    string  `query:"piece_id" required:"true"`
	ScalePct   float64 `query:"scale_pct" default:"100" exclusiveMinimum:"0"`
	ProfileIDs string  `query:"profile_ids" required:"true"`
	Copies     int64   `query:"copies" minimum:"1" maximum:"500" default:"24"`
}

type visibleDetailQuery struct {
	MachineIDs string  `query:"machine_ids"`
	PieceID    string  `query:"piece_id"`
	LayerUM    float64 `query:"layer_um" default:"50"`
	ScalePct   float64 `query:"scale_pct" default:"100"`
	TiltDeg    float64 `query:"tilt_deg" default:"20"`
	TipFromMM  float64 `query:"tip_from_mm" default:"0.3"`
	TipToMM    float64 `query:"tip_to_mm" default:"0.4"`
}

type withdrawnPlate struct {
	ID   string `path:"id"`
	Body struct {
		Version int64  `json:"version"`
		Why     string `json:"why" doc:"empty: bring it back"`
	}
}

type laySeriesBody struct {
	ID   string `path:"id"`
	Body struct {
		PieceID string `json:"piece_id" minLength:"1"`
	}
}

type codeQuery struct {
	Code string `path:"code"`
	URL  string `query:"url" maxLength:"400" required:"true"`
}

type runCodeQuery struct {
	ID  string `path:"id"`
	URL string `query:"url" maxLength:"400" required:"true"`
}

type codePath struct {
	Code string `path:"code"`
}

func (s *server) plates() {
	serve(s, http.MethodGet, "/api/v1/plates", "Plates, the newest first", func(ctx context.Context, _ *nothing) ([]planning.PlateRow, error) {
		return s.work.Planning.Plates(ctx)
	})
	serve(s, http.MethodPost, "/api/v1/plates", "Lay a plate", func(ctx context.Context, in *created[planning.PlateDraft]) (planning.PlateSheet, error) {
		return s.work.Planning.SavePlate(ctx, in.Body)
	})
	serve(s, http.MethodGet, "/api/v1/plates/{id}", "A plate with everything worked out", func(ctx context.Context, in *byIDPath) (planning.PlateSheet, error) {
		return s.work.Planning.PlateSheet(ctx, in.ID)
	})
	serve(s, http.MethodPut, "/api/v1/plates/{id}", "Change a plate and what lies on it", func(ctx context.Context, in *plateBody) (planning.PlateSheet, error) {
		in.Body.Plate.ID = in.ID
		return s.work.Planning.SavePlate(ctx, in.Body)
	})
	serve(s, http.MethodPost, "/api/v1/plates/{id}/withdraw", "Withdraw a plate with a reason, or bring it back with none", func(ctx context.Context, in *withdrawnPlate) (planning.PlateSheet, error) {
		return s.work.Planning.WithdrawPlate(ctx, in.ID, in.Body.Version, in.Body.Why)
	})
	ask(s, "/api/v1/pack", "Lay pieces on a plate anew, saving nothing", func(ctx context.Context, in *created[packBody]) (planning.Packed, error) {
		return s.work.Planning.PackPlate(ctx, planning.PlateDraft{Plate: in.Body.Plate, Placements: in.Body.Placements}, in.Body.More)
	})
	serveFile(s, "/api/v1/plates/{id}/export", "A plate as STL or 3MF, coupons with their numbers", func(ctx context.Context, in *exportQuery) (string, string, []byte, error) {
		name, data, err := s.work.Planning.PlateMesh(ctx, in.ID, in.Format)
		return name, "model/" + in.Format, data, err
	})
	serve(s, http.MethodPost, "/api/v1/series/{id}/plates", "Put the cells of a series on plates", func(ctx context.Context, in *laySeriesBody) ([]planning.PlateSheet, error) {
		return s.work.DialIn.LaySeries(ctx, in.ID, in.Body.PieceID)
	})
	serve(s, http.MethodGet, "/api/v1/fill", "Time per piece against copies", func(ctx context.Context, in *fillQuery) (planning.FillPlot, error) {
		return s.work.Planning.Fill(ctx, in.PieceID, in.ScalePct, list(in.ProfileIDs), in.Copies)
	})
	serve(s, http.MethodGet, "/api/v1/visible-detail", "What machines can draw, as eyes see it", func(ctx context.Context, in *visibleDetailQuery) (kit.VisibleDetail, error) {
		return s.work.Kit.VisibleDetail(ctx, kit.VisibleDetailRequest{MachineIDs: list(in.MachineIDs), PieceID: in.PieceID, LayerUM: in.LayerUM, ScalePct: in.ScalePct,
			TiltDeg: in.TiltDeg, TipFromMM: in.TipFromMM, TipToMM: in.TipToMM})
	})
	ask(s, "/api/v1/predictions", "Draw a ladder or a slice as a machine would", func(ctx context.Context, in *created[kit.PredictAsk]) (kit.Predicted, error) {
		return s.work.Kit.Predict(ctx, in.Body)
	})
	serve(s, http.MethodGet, "/api/v1/specimens/{code}", "The specimen with a label's code", func(ctx context.Context, in *codePath) (kit.SpecimenPlace, error) {
		return s.work.Kit.SpecimenPlace(ctx, in.Code)
	})
	serveFile(s, "/api/v1/runs/{id}/qr.png", "The code that opens a print's page", func(_ context.Context, in *runCodeQuery) (string, string, []byte, error) {
		data, err := qrCode(in.URL, "/runs/"+url.PathEscape(in.ID))
		return "print.png", "image/png", data, err
	})
	serveFile(s, "/api/v1/specimens/{code}/qr.png", "The code that opens a specimen's page", func(_ context.Context, in *codeQuery) (string, string, []byte, error) {
		data, err := qrCode(in.URL, "/specimens/"+url.PathEscape(in.Code))
		return in.Code + ".png", "image/png", data, err
	})
}

// qrCode draws the address of a page on this server.
func qrCode(base, page string) ([]byte, error) {
	from, err := url.Parse(base)
	if err != nil || (from.Scheme != "http" && from.Scheme != "https") {
		return nil, quantity.Errorf("url", "is %q; give the address at which the pages stand", base)
	}
	drawn, err := qr.Encode(from.Scheme+"://"+from.Host+page, qr.M)
	if err != nil {
		return nil, err
	}
	return drawn.PNG(), nil
}

// list splits ids that stand in one parameter.
func list(ids string) []string {
	return strings.FieldsFunc(ids, func(r rune) bool { return r == ',' })
}
