package api

import (
	"context"
	"net/http"

	"ojime/internal/bench"
	"ojime/internal/work/firstdays"
)

type unitQuery struct {
	ID     string `path:"id"`
	Beside string `query:"beside" maxLength:"40" doc:"another machine, whose box is set beside this one's"`
}

type peelBody struct {
	ID   string `path:"id"`
	Body struct {
		What string `json:"what" minLength:"1"`
	}
}

// unit is the very unit of a machine.
func (s *server) unit() {
	serve(s, http.MethodGet, "/api/v1/machines/{id}/unit-file", "The very unit of a machine", func(ctx context.Context, in *unitQuery) (firstdays.UnitSheet, error) {
		return s.work.FirstDays.Unit(ctx, in.ID, in.Beside)
	})
	serve(s, http.MethodPut, "/api/v1/machines/{id}/unit-file", "Say what the very unit of a machine is; a stale version is refused", func(ctx context.Context, in *changed[bench.UnitFile]) (firstdays.UnitSheet, error) {
		return s.work.FirstDays.SaveUnit(ctx, in.ID, in.Body)
	})
	serve(s, http.MethodPost, "/api/v1/machines/{id}/unit-file/peels", "Confirm what comes off or stays on before the first print", func(ctx context.Context, in *peelBody) (firstdays.UnitSheet, error) {
		return s.work.FirstDays.ConfirmPeel(ctx, in.ID, in.Body.What)
	})
}
