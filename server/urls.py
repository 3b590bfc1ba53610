"""Every address of the application: the API, and the one page that holds the rest."""

from django.urls import path, re_path

from server.engines import views as engines
from server.front.views import page, worker
from server.inspections import traces
from server.inspections import views as inspections
from server.photos import views as photos
from server.shops import views as shops

urlpatterns = [
    path("api/session", shops.SessionView.as_view()),
    path("api/vocabulary", engines.VocabularyView.as_view()),
    path("api/engine-presets", engines.PresetsView.as_view()),
    path("api/engine-plan", engines.PlanView.as_view()),
    path("api/engines", engines.EnginesView.as_view()),
    path("api/engines/<uuid:engine_id>", engines.EngineView.as_view()),
    path("api/inspections", inspections.InspectionsView.as_view()),
    path("api/inspections/import", inspections.ImportView.as_view()),
    path("api/inspections/<uuid:inspection_id>", inspections.InspectionView.as_view()),
    path("api/inspections/<uuid:inspection_id>/document", inspections.DocumentView.as_view()),
    path("api/inspections/<uuid:inspection_id>/trace", traces.TraceView.as_view()),
    path("api/inspections/<uuid:inspection_id>/renumber", inspections.RenumberView.as_view()),
    path(
        "api/inspections/<uuid:inspection_id>/observations",
        inspections.ObservationsView.as_view(),
    ),
    path("api/photos", photos.PhotosView.as_view()),
    path("api/photos/<slug:sha256>", photos.PhotoView.as_view()),
    path("sw.js", worker),
    re_path(r"^(?!api/|static/).*$", page),
]
handler404 = "server.api.errors.not_found"
handler500 = "server.api.errors.failed"
