package api

import (
	"context"
	"crypto/rand"
	"encoding/json"
	"errors"
	"log/slog"
	"net/http"
	"strings"

	"github.com/danielgtaylor/huma/v2"
	"github.com/labstack/echo/v5"

	"ojime/internal/bench"
	"ojime/internal/core/mesh"
	"ojime/internal/core/quantity"
	"ojime/internal/work/feed"
)

// Types of problems that the interface answers in a special way.
const (
	problemStale      = "urn:ojime:stale"
	problemQuestioned = "urn:ojime:questioned"
	problemDone       = "urn:ojime:done"
)

// statusStopped answers a request whose sender went away; nobody reads it.
const statusStopped = 499

// plainLocations makes Huma's own validation errors name fields as the core
// does: body.points[2].dose becomes points[2].dose.
func plainLocations() {
	next := huma.NewError
	huma.NewError = func(status int, message string, errs ...error) huma.StatusError {
		made := next(status, message, errs...)
		var model *huma.ErrorModel
		if errors.As(made, &model) {
			for _, detail := range model.Errors {
				for _, part := range []string{"body.", "query.", "path.", "form."} {
					detail.Location = strings.TrimPrefix(detail.Location, part)
				}
				detail.Value = nil // never what came in: an answer is not larger for it
			}
			for _, detail := range model.Errors {
				detail.Message = plainMessage(detail.Message)
			}
			if len(model.Errors) > 0 {
				model.Detail = strings.TrimPrefix(model.Errors[0].Location+": "+model.Errors[0].Message, ": ")
			}
		}
		return made
	}
}

// plainMessage says what the framework found in words that a person can act on.
func plainMessage(message string) string {
	switch {
	case message == "expected length >= 1":
		return "is missing; choose or enter it"
	case message == "expected number", message == "expected integer":
		return "must be a number"
	case strings.HasPrefix(message, "expected number "), strings.HasPrefix(message, "expected integer "):
		return "must be " + message[strings.LastIndex(message[:strings.LastIndex(message, " ")], " ")+1:]
	}
	return message
}

// problem is the one table from errors of the record to problem documents
// (RFC 9457). What it does not know is a 500 that shows an id and logs the
// cause.
func problem(err error) error {
	var field *quantity.FieldError
	questioned := errors.Is(err, bench.ErrQuestioned)
	switch {
	case errors.As(err, &field):
		made := &huma.ErrorModel{
			Status: http.StatusUnprocessableEntity, Title: http.StatusText(http.StatusUnprocessableEntity), Detail: field.Error(),
			Errors: []*huma.ErrorDetail{{Message: field.Message, Location: field.Path}},
		}
		if questioned {
			made.Type, made.Title = problemQuestioned, "Is this right?"
		}
		return made
	case errors.Is(err, bench.ErrStale):
		var told *bench.StaleError
		if errors.As(err, &told) {
			return &huma.ErrorModel{Type: problemStale, Status: http.StatusConflict, Title: "Changed elsewhere",
				Detail: "Changed elsewhere since you opened it: " + told.Error() + ". What you entered is still here; look at it and save it again."}
		}
		return &huma.ErrorModel{Type: problemStale, Status: http.StatusConflict, Title: "Changed elsewhere",
			Detail: "This entry was changed elsewhere since you opened it; reload it and enter your change again."}
	case errors.Is(err, bench.ErrNotFound):
		return &huma.ErrorModel{Status: http.StatusNotFound, Title: http.StatusText(http.StatusNotFound), Detail: err.Error()}
	case errors.Is(err, mesh.ErrStopped), errors.Is(err, context.Canceled):
		return &huma.ErrorModel{Status: statusStopped, Title: "Stopped", Detail: "This was stopped before it was done; nothing was kept."}
	case errors.Is(err, bench.ErrReadOnly):
		return plainProblem(http.StatusForbidden, "This record is open to be looked at only; nothing can be changed. Start the program on a folder that can be written.")
	case errors.Is(err, bench.ErrFull):
		slog.Error("the disk is full", "cause", err)
		return plainProblem(http.StatusInsufficientStorage, "The disk of the record is full, and nothing of this was kept. Make room on it, then send this again; what you entered is still here.")
	case errors.Is(err, errThrottled):
		return plainProblem(http.StatusTooManyRequests, "Too many wrong tokens came from there; wait a minute, and check the token that was shown when the device was recorded.")
	case errors.Is(err, feed.ErrNoDevice):
		return &huma.ErrorModel{Status: http.StatusUnauthorized, Title: http.StatusText(http.StatusUnauthorized),
			Detail: "No device has this token, or it was retired. Send Authorization: Bearer TOKEN with the one that was shown when the device was recorded."}
	case errors.Is(err, bench.ErrDone):
		return &huma.ErrorModel{Type: problemDone, Status: http.StatusConflict, Title: "Done already", Detail: "This was done already, and its answer is told no more; reload to see it."}
	case errors.Is(err, bench.ErrConflict):
		return &huma.ErrorModel{Status: http.StatusConflict, Title: http.StatusText(http.StatusConflict), Detail: err.Error()}
	}
	return unknown(err)
}

// unknown is a problem that no table knows: its cause is in the log under an id.
func unknown(cause error) *huma.ErrorModel {
	id := rand.Text()[:8]
	slog.Error("request failed", "id", id, "cause", cause)
	return &huma.ErrorModel{Status: http.StatusInternalServerError, Title: "Something went wrong",
		Detail: "The program could not do this. The log names the cause under " + id + "."}
}

// plainProblem is a problem of a request as a whole.
func plainProblem(status int, detail string) *huma.ErrorModel {
	return &huma.ErrorModel{Status: status, Title: http.StatusText(status), Detail: detail}
}

// writeProblem answers with a problem document.
func writeProblem(c *echo.Context, p *huma.ErrorModel) error {
	text, err := json.Marshal(p)
	if err != nil {
		return err
	}
	return c.Blob(p.Status, "application/problem+json", text)
}
