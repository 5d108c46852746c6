package ferry.stone.server.web;

import com.fasterxml.jackson.databind.exc.UnrecognizedPropertyException;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.math.Figures;
import ferry.stone.server.store.BlobStore;
import ferry.stone.server.store.DiskSpace;
import java.util.Arrays;
import java.util.Locale;
import java.util.stream.Collectors;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.beans.TypeMismatchException;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpStatus;
import org.springframework.http.HttpStatusCode;
import org.springframework.http.ProblemDetail;
import org.springframework.http.ResponseEntity;
import org.springframework.http.converter.HttpMessageNotReadableException;
import org.springframework.web.bind.annotation.ExceptionHandler;
import org.springframework.web.bind.annotation.RestControllerAdvice;
import org.springframework.web.context.request.WebRequest;
import org.springframework.web.servlet.mvc.method.annotation.ResponseEntityExceptionHandler;

/** Turns faults into problem documents (RFC 9457) with a sentence for the user. */
@RestControllerAdvice
public class Problems extends ResponseEntityExceptionHandler {
  private static final Logger LOG = LoggerFactory.getLogger(Problems.class);

  private final DiskSpace disk;

  public Problems(DiskSpace disk) {
    this.disk = disk;
  }

  @ExceptionHandler
  ProblemDetail notFound(NotFoundException e) {
    return problem(HttpStatus.NOT_FOUND, "Not found", e.getMessage());
  }

  @ExceptionHandler
  ProblemDetail format(FormatException e) {
    ProblemDetail problem =
        problem(HttpStatus.UNPROCESSABLE_ENTITY, "The file cannot be used", e.getMessage());
    problem.setProperty("resource", e.resource());
    problem.setProperty("place", e.place());
    problem.setProperty("kind", e.kind());
    return problem;
  }

  @ExceptionHandler
  ProblemDetail tooLarge(BlobStore.TooLargeException e) {
    return problem(
        HttpStatus.PAYLOAD_TOO_LARGE,
        "The file is too large",
        "The file is larger than "
            + Figures.bytes(e.most())
            + ", the most this server takes. Split the asset or raise ferry.max-upload-bytes.");
  }

  @ExceptionHandler
  ProblemDetail wrongValue(IllegalArgumentException e) {
    return problem(HttpStatus.BAD_REQUEST, "A value does not fit", e.getMessage());
  }

  @ExceptionHandler
  ProblemDetail conflict(ConflictException e) {
    return problem(HttpStatus.CONFLICT, "Not possible now", e.getMessage());
  }

  /** A value of another kind than is asked for, with those that are known where they are few. */
  @Override
  protected ResponseEntity<Object> handleTypeMismatch(
      TypeMismatchException e, HttpHeaders headers, HttpStatusCode status, WebRequest request) {
    Class<?> wanted = e.getRequiredType();
    String known =
        wanted != null && wanted.isEnum()
            ? " is one of " + Arrays.toString(wanted.getEnumConstants()).replaceAll("[\\[\\]]", "")
            : " is a "
                + (wanted == null ? "value" : wanted.getSimpleName().toLowerCase(Locale.ROOT));
    ProblemDetail problem =
        problem(
            HttpStatus.BAD_REQUEST,
            "A value does not fit",
            e.getPropertyName() + known + ", not \"" + e.getValue() + "\".");
    return ResponseEntity.status(status).headers(headers).body(problem);
  }

  @ExceptionHandler
  ProblemDetail unexpected(Exception e) {
    if (DiskSpace.isFull(e)) {
      return problem(HttpStatus.INSUFFICIENT_STORAGE, "The disk is full", disk.sentence());
    }
    for (Throwable t = e; t != null; t = t.getCause()) {
      if (t instanceof OutOfMemoryError) {
        LOG.error("out of memory", e);
        return problem(
            HttpStatus.SERVICE_UNAVAILABLE,
            "Not enough memory",
            "This needs more memory than the server has left. Close other crossings or give the"
                + " server more (FERRY_MEMORY), then try again.");
      }
    }
    LOG.error("unexpected fault", e);
    return problem(
        HttpStatus.INTERNAL_SERVER_ERROR,
        "Unexpected fault",
        "Something went wrong inside. Nothing was changed; try again, and look at the server's log"
            + " if it stays.");
  }

  @Override
  protected org.springframework.http.ResponseEntity<Object> handleHttpMessageNotReadable(
      HttpMessageNotReadableException e,
      org.springframework.http.HttpHeaders headers,
      org.springframework.http.HttpStatusCode status,
      org.springframework.web.context.request.WebRequest request) {
    Throwable cause = e;
    while (cause.getCause() != null) {
      cause = cause.getCause();
    }
    String why =
        cause instanceof UnrecognizedPropertyException unknown
            ? unknown(unknown)
            : cause instanceof IllegalArgumentException
                ? cause.getMessage()
                : "The request's JSON does not fit.";
    return org.springframework.http.ResponseEntity.badRequest()
        .body(problem(HttpStatus.BAD_REQUEST, "A value does not fit", why));
  }

  private static String unknown(UnrecognizedPropertyException e) {
    String known =
        e.getKnownPropertyIds() == null
            ? ""
            : e.getKnownPropertyIds().stream()
                .map(Object::toString)
                .sorted()
                .collect(Collectors.joining(", "));
    return "\""
        + e.getPropertyName()
        + "\" is no member that is known here"
        + (known.isEmpty() ? "." : "; there are " + known + ".");
  }

  private static ProblemDetail problem(HttpStatus status, String title, String detail) {
    ProblemDetail problem = ProblemDetail.forStatusAndDetail(status, detail);
    problem.setTitle(title);
    return problem;
  }
}
