"""Every address of the application: the API, and the one page that holds the rest."""

from django.urls import path, re_path

from server.api.health import alive, ready, robots
from server.api.metrics import metrics
from server.archive import views as archive
from server.bench import views as bench
from server.clients import views as clients
from server.engines import views as engines
from server.front.views import page, worker
from server.inspections import due, narration, over_time, tables, traces
from server.inspections import photos as inspection_photos
from server.inspections import views as inspections
from server.learning import views as learning
from server.photos import views as photos
from server.reports import views as reports
from server.shops import account_views as accounts
from server.shops import key_views as shop_keys
from server.shops import rules_views as rules
from server.shops import views as shops
from server.training import views as training

ONE = "api/inspections/<uuid:inspection_id>"

urlpatterns = [
    path("api/session", shops.SessionView.as_view()),
    path("api/session/tools", bench.ToolsView.as_view()),
    path("api/calculators", bench.CalculatorsView.as_view()),
    path("api/calculators/<slug:name>", bench.CalculateView.as_view()),
    path("api/set-up", accounts.SetUpView.as_view()),
    path("api/welcome/<str:who>/<str:token>", accounts.WelcomeView.as_view()),
    path("api/forgotten", accounts.ForgottenView.as_view()),
    path("api/me", accounts.MeView.as_view()),
    path("api/me/password", accounts.MyPasswordView.as_view()),
    path("api/me/second-factor", accounts.MySecondFactorView.as_view()),
    path("api/me/second-factor/forget", accounts.ForgetSecondFactorView.as_view()),
    path("api/me/sessions", accounts.MySessionsView.as_view()),
    path("api/me/keys", shop_keys.MyKeysView.as_view()),
    path("api/me/keys/<uuid:key_id>", shop_keys.MyKeyView.as_view()),
    path("api/me/log", accounts.MyAccountLogView.as_view()),
    path("api/shop/log", accounts.AccountLogView.as_view()),
    path("api/shop/keys", shop_keys.ShopKeysView.as_view()),
    path("api/shop/keys/<uuid:key_id>", shop_keys.ShopKeyView.as_view()),
    path("calendar/<str:secret>.ics", shop_keys.calendar),
    path("api/people", accounts.PeopleView.as_view()),
    path("api/people/<uuid:person_id>", accounts.PersonView.as_view()),
    path("api/shop", accounts.ShopDetailsView.as_view()),
    path("api/shop/logo", accounts.LogoView.as_view()),
    path("api/vocabulary", engines.VocabularyView.as_view()),
    path("api/engine-presets", engines.PresetsView.as_view()),
    path("api/engine-plan", engines.PlanView.as_view()),
    path("api/engines", engines.EnginesView.as_view()),
    path("api/engines/<uuid:engine_id>", engines.EngineView.as_view()),
    path("api/engines/<uuid:engine_id>/merge", engines.MergeView.as_view()),
    path("api/clients", clients.ClientsView.as_view()),
    path("api/clients/<uuid:client_id>", clients.ClientView.as_view()),
    path("api/clients/<uuid:client_id>/data", clients.ClientDataView.as_view()),
    path("api/engines/<uuid:engine_id>/owner", clients.EngineOwnerView.as_view()),
    path("api/engines/<uuid:engine_id>/over-time", over_time.OverTimeView.as_view()),
    path("api/due", due.ShopDueView.as_view()),
    path("api/inspections", inspections.InspectionsView.as_view()),
    path("api/inspections/import", inspections.ImportView.as_view()),
    path(ONE, inspections.InspectionView.as_view()),
    path(f"{ONE}/kept", inspections.KeptView.as_view()),
    path(f"{ONE}/document", inspections.DocumentView.as_view()),
    path(f"{ONE}/board", inspections.BoardView.as_view()),
    path(f"{ONE}/carried", inspections.CarriedView.as_view()),
    path(f"{ONE}/refit", inspections.RefitView.as_view()),
    path(f"{ONE}/work-order", inspections.WorkOrderView.as_view()),
    path(f"{ONE}/photos", inspection_photos.InspectionPhotosView.as_view()),
    path(f"{ONE}/weighed", inspections.WeighedView.as_view()),
    path(f"{ONE}/reasons", inspections.ReasonsView.as_view()),
    path(f"{ONE}/cells", tables.CellsView.as_view()),
    path("api/histories", tables.HistoriesView.as_view()),
    path(f"{ONE}/say", narration.SayView.as_view()),
    path(f"{ONE}/trace", traces.TraceView.as_view()),
    path(f"{ONE}/observations", inspections.ObservationsView.as_view()),
    path(f"{ONE}/handing-over", reports.HandingOverView.as_view()),
    path(f"{ONE}/reopen", reports.ReopenView.as_view()),
    path(f"{ONE}/report", reports.ReportView.as_view()),
    path(f"{ONE}/job-sheet", reports.JobSheetView.as_view()),
    path(f"{ONE}/signed", reports.SignedFileView.as_view()),
    path(f"{ONE}/cylinders.csv", reports.TableView.as_view(kind="cylinders")),
    path(f"{ONE}/readings.csv", reports.TableView.as_view(kind="readings")),
    path(f"{ONE}/links", reports.LinksView.as_view()),
    path(f"{ONE}/links/<uuid:link_id>", reports.LinkView.as_view()),
    path("api/shop/rules", rules.RulesView.as_view()),
    path("api/shop/rules/try", rules.TryRulesView.as_view()),
    path("api/shop/record", learning.TrackRecordView.as_view()),
    path("api/shop/record.csv", learning.TrackRecordTableView.as_view()),
    path("api/shop/archive", archive.ShopArchiveView.as_view()),
    path("api/training", training.TrainingView.as_view()),
    path("api/training/classes", training.ClassesView.as_view()),
    path("api/training/own", training.OwnCasesView.as_view()),
    path("api/training/own/<int:number>", training.OwnCaseView.as_view()),
    path("api/training/rounds", training.AttemptsView.as_view()),
    path("api/training/rounds/<uuid:attempt_id>", training.AttemptView.as_view()),
    path("api/training/rounds/<uuid:attempt_id>/acts", training.ActView.as_view()),
    path("api/training/rounds/<uuid:attempt_id>/record", training.WritingView.as_view()),
    path("api/training/rounds/<uuid:attempt_id>/answer", training.AnswerView.as_view()),
    path("api/training/plug", training.PlugView.as_view()),
    path("r/<str:secret>", reports.shared),
    path("r/<str:secret>/report.pdf", reports.shared, {"as_pdf": True}),
    path("api/photos/<slug:sha256>", photos.PhotoView.as_view()),
    path("healthz", alive),
    path("readyz", ready),
    path("metrics", metrics),
    path("robots.txt", robots),
    path("sw.js", worker),
    re_path(r"^(?!api/|static/|calendar/|favicon|apple-touch).*$", page),
]
handler400 = "server.api.errors.bad_request"
handler404 = "server.api.errors.not_found"
handler500 = "server.api.errors.failed"
