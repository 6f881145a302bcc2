// Made by `npm run api-types` from the server's classes. Not to be edited.
export interface paths {
    "/api/settings": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: operations["Settings_get"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch: operations["Settings_change"];
        trace?: never;
    };
    "/api/session": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: operations["Access_session"];
        put?: never;
        post: operations["Access_signIn"];
        delete: operations["Access_signOut"];
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/password": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put: operations["Access_setPassword"];
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/health": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: operations["Machine_health"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/machine": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: operations["Machine_get"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/jobs": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: operations["Jobs_list"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/jobs/{id}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: operations["Jobs_report"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/jobs/{id}/pause": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        post: operations["Jobs_pause"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/jobs/{id}/resume": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        post: operations["Jobs_resume"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/jobs/{id}/cancel": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        post: operations["Jobs_cancel"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/jobs/{id}/first": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        post: operations["Jobs_first"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/jobs/{id}/retry": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        post: operations["Jobs_retry"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/jobs/{id}/seen": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        post: operations["Jobs_see"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/volumes": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: operations["Volumes_list"];
        put?: never;
        post: operations["Volumes_add"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/volumes/suggestions": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: operations["Volumes_suggestions"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/volumes/folders": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: operations["Volumes_folders"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/volumes/{id}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch: operations["Volumes_change"];
        trace?: never;
    };
    "/api/volumes/{id}/back": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        post: operations["Volumes_takeBack"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/volumes/{id}/eject": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        post: operations["Volumes_eject"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/readers": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: operations["Readers_list"];
        put?: never;
        post: operations["Readers_add"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/readers/{id}/card": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: operations["Readers_card"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/readers/{id}/listing": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: operations["Readers_listing"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/readers/{id}/summary": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: operations["Readers_summary"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/readers/{id}/picture": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: operations["Readers_picture"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/readers/{id}/device": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put: operations["Readers_state"];
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/readers/{id}/eject": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        post: operations["Readers_eject"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/shoots": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: operations["Shoots_list"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/shoots/totals": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: operations["Shoots_totals"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/shoots/groups": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: operations["Shoots_groups"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/shoots/{id}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: operations["Shoots_get"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch: operations["ShootFacts_change"];
        trace?: never;
    };
    "/api/shoots/{id}/skim": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: operations["Shoots_skim"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/shoots/{id}/leads": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put: operations["Shoots_leads"];
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/shoots/{id}/folder-leads": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put: operations["Shoots_folderLeads"];
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/shoots/{id}/clocks": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put: operations["Shoots_clocks"];
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/shoots/{id}/away": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: operations["Shoots_away"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/shoots/{id}/frames": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: operations["Shoots_frames"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/shoots/{id}/history": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: operations["History_page"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/history": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: operations["History_everywhere"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/shoots/{id}/decisions": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: operations["History_decisions"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/shoots/{id}/decisions/{group}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        post: operations["History_turn"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/marks": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        post: operations["Marks_apply"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/marks/now": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        post: operations["Marks_now"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/albums": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: operations["Albums_list"];
        put?: never;
        post: operations["Albums_create"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/albums/held": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: operations["Albums_held"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/albums/texts": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        post: operations["Albums_bring"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/albums/text": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: operations["Albums_all"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/albums/{id}/text": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: operations["Albums_text"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/albums/{id}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch: operations["Albums_change"];
        trace?: never;
    };
    "/api/opening/frames/{id}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: operations["Opening_files"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/opening/folder": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        post: operations["Opening_folder"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/opening/frames": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        post: operations["Opening_frames"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/opening/copies": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        post: operations["Opening_copies"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/opening/programs": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: operations["Opening_programs"];
        put: operations["Opening_setPrograms"];
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/archives": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: operations["Archives_list"];
        put?: never;
        post: operations["Archives_add"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/archives/open": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        post: operations["Archives_open"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/archives/forget": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        post: operations["Archives_forget"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/archives/close": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        post: operations["Archives_close"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/space": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: operations["Space_taken"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/space/counting": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: operations["Space_counting"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/space/rejects": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: operations["Space_old"];
        put?: never;
        post: operations["Space_rejects"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/piles": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: operations["Piles_list"];
        put?: never;
        post: operations["Piles_create"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/piles/{id}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: operations["Piles_shown"];
        put?: never;
        post?: never;
        delete: operations["Piles_remove"];
        options?: never;
        head?: never;
        patch: operations["Piles_rename"];
        trace?: never;
    };
    "/api/piles/{id}/frames": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        post?: never;
        delete: operations["Piles_empty"];
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/shoots/{id}/passes": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: operations["Passes_list"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/passes": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        post: operations["Passes_begin"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/passes/choices": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        post: operations["Passes_choices"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/passes/{id}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: operations["Passes_get"];
        put: operations["Passes_progress"];
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/passes/{id}/decisions": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: operations["Passes_decisions"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/passes/{id}/compare/{other}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: operations["Passes_compare"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/passes/{id}/undo": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        post: operations["Passes_undo"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/vocabulary": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: operations["Vocabulary_terms"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/vocabulary/last": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: operations["Vocabulary_last"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/vocabulary/rosters/{shootId}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: operations["Vocabulary_rosters"];
        put: operations["Vocabulary_useRosters"];
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/vocabulary/unfiled": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: operations["Vocabulary_unfiled"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/vocabulary/text": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: operations["Vocabulary_text"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/vocabulary/preview": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        post: operations["Vocabulary_preview"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/vocabulary/changes": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        post: operations["Vocabulary_change"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/vocabulary/undo": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        post: operations["Vocabulary_undo"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/vocabulary/terms": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        post: operations["Vocabulary_bring"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/marks/sidecars": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: operations["Sidecars_waiting"];
        put?: never;
        post: operations["Sidecars_tryNow"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/intakes": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        post: operations["Intake_start"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/arrivals/latest": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: operations["Intake_latest"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/intakes/{id}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: operations["Intake_report"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/intakes/{id}/frames": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: operations["Intake_frames"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/readers/{id}/clear": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        post: operations["Intake_clear"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/readers/{id}/known": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: operations["Intake_known"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/readers/{id}/clearance": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: operations["Intake_clearance"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/uploads/links": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: operations["Uploads_allLinks"];
        put?: never;
        post: operations["Uploads_makeLink"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/uploads/links/{id}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        post?: never;
        delete: operations["Uploads_revoke"];
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/uploads": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: operations["Uploads_list"];
        put?: never;
        post: operations["Uploads_begin"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/uploads/{id}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: operations["Uploads_one"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/uploads/{id}/files": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: operations["Uploads_whole"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/uploads/{id}/files/{file}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        post: operations["Uploads_finish"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/uploads/{id}/forget": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        post: operations["Uploads_forget"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/uploads/{id}/close": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        post: operations["Uploads_close"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/watch": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: operations["Watch_rules"];
        put?: never;
        post: operations["Watch_add"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/watch/example": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        post: operations["Watch_example"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/watch/{id}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put: operations["Watch_change"];
        post?: never;
        delete: operations["Watch_remove"];
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/watch/{id}/again": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        post: operations["Watch_again"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/adopted": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: operations["Adopted_list"];
        put?: never;
        post: operations["Adopted_adopt"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/adopted/example": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        post: operations["Adopted_example"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/adopted/{id}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put: operations["Adopted_change"];
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/adopted/{id}/again": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        post: operations["Adopted_again"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/adopted/{id}/take-in": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        post: operations["Adopted_takeIn"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/adopted/{id}/forget": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        post: operations["Adopted_forget"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/copies/missing": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: operations["Copies_plan"];
        put?: never;
        post: operations["Copies_copyNow"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/copies/release": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: operations["Copies_releasePlan"];
        put?: never;
        post: operations["Copies_release"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/copies/shoots/{id}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: operations["Copies_kept"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/copies/verifications": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        post: operations["Copies_verify"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/moves/plan": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        post: operations["Moves_plan"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/moves": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        post: operations["Moves_start"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/moves/{jobId}/undo": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        post: operations["Moves_undo"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/bin": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: operations["Bin_list"];
        put?: never;
        post: operations["Bin_start"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/bin/plan": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        post: operations["Bin_plan"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/bin/back": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        post: operations["Bin_back"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/bin/jobs/{id}/undo": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        post: operations["Bin_undo"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/bin/empty": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        post: operations["Bin_empty"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/bin/{id}/frames": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: operations["Bin_frames"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/shoots/{id}/handoffs/plan": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: operations["Handoff_plan"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/shoots/{id}/handoffs": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: operations["Handoff_list"];
        put?: never;
        post: operations["Handoff_start"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/shoots/{id}/handoffs/heard": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: operations["Handoff_heard"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/shoots/{id}/handoffs/take-back": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        post: operations["Handoff_takeBack"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/shoots/{id}/returns": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: operations["Returns_list"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/shoots/{id}/returns/look": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        post: operations["Returns_look"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/shoots/{id}/returns/folders": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: operations["Returns_folders"];
        put: operations["Returns_setFolders"];
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/returns/{assetId}/originals": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put: operations["Returns_answer"];
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/returns/of/{frameId}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: operations["Returns_editsOf"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/watermarks": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        post: operations["Delivery_keepWatermark"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/watermarks/{picture}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: operations["Delivery_watermark"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/shoots/{id}/deliveries/plan": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        post: operations["Delivery_plan"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/shoots/{id}/deliveries/sample": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        post: operations["Delivery_sample"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/shoots/{id}/deliveries": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: operations["Delivery_list"];
        put?: never;
        post: operations["Delivery_start"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/deliveries/{job}/changes": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: operations["Delivery_changes"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/deliveries/{job}/again": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        post: operations["Delivery_again"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/deliveries/{job}/sheet": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: operations["Delivery_sheet"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/deliveries/{job}/zip": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: operations["Delivery_zip"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/ledger": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: operations["Ledger_page"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/ledger/list.csv": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: operations["Ledger_csv"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/ledger/years": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: operations["Ledger_years"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/ledger/years/{year}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: operations["Ledger_months"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/shoots/{id}/went-out": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: operations["Ledger_wentOut"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/ledger/postings": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        post: operations["Ledger_enter"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/ledger/postings/{id}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        post?: never;
        delete: operations["Ledger_takeOut"];
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/destinations": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: operations["Destinations_all"];
        put?: never;
        post: operations["Destinations_add"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/destinations/{id}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put: operations["Destinations_change"];
        post?: never;
        delete: operations["Destinations_forget"];
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/destinations/{id}/check": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        post: operations["Destinations_check"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/deliveries/{job}/send": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        post: operations["Destinations_send"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/shoots/{id}/sent": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: operations["Destinations_sent"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/sent/{id}/confirm": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        post: operations["Destinations_confirm"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/gallery-place": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: operations["Gallery_place"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/shoots/{id}/galleries": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: operations["Gallery_list"];
        put?: never;
        post: operations["Gallery_make"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/galleries/choosing": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: operations["Gallery_choosing"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/shoots/{id}/client-remarks": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: operations["Gallery_remarks"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/galleries/{id}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch: operations["Gallery_change"];
        trace?: never;
    };
    "/api/galleries/{id}/again": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        post: operations["Gallery_again"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/galleries/{id}/close": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        post: operations["Gallery_close"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/galleries/{id}/reopen": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        post: operations["Gallery_reopen"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/galleries/{id}/links": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        post: operations["Gallery_addLink"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/gallery-links/{id}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        post?: never;
        delete: operations["Gallery_revoke"];
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/mail-account": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: operations["Messages_account"];
        put: operations["Messages_keep"];
        post?: never;
        delete: operations["Messages_forget"];
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/mail-account/check": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        post: operations["Messages_check"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/shoots/{id}/messages": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: operations["Messages_list"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/galleries/{id}/messages": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        post: operations["Messages_ofGallery"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/shoots/{id}/picture-messages/made": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        post: operations["Messages_made"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/shoots/{id}/picture-messages": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        post: operations["Messages_withPictures"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/rebuild": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: operations["Rebuild_archives"];
        put?: never;
        post: operations["Rebuild_begin"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/carried": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: operations["Carried_all"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/carried/results/{jobId}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: operations["Carried_result"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/carried/results/{jobId}/names": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        post: operations["Carried_takeNames"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/carried/results/{jobId}/bin": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        post: operations["Carried_binToo"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/carried/{volumeId}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        post: operations["Carried_begin"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/carried/{volumeId}/leave": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        post: operations["Carried_leave"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/features/{picture}/sharpest": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: operations["Features_sharpest"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/features/shoots/{id}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        post: operations["Features_measure"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/duplicates": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: operations["Duplicates_page"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/duplicates/stays": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        post: operations["Duplicates_stays"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/duplicates/variants": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: operations["Duplicates_variants"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/duplicates/variants/together": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        post: operations["Duplicates_together"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/find": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        post: operations["Find_find"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/find/picture": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        post: operations["Find_picture"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/find/picture/{token}/further": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        post: operations["Find_further"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/find/days": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: operations["Find_days"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/find/folders": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: operations["Find_folders"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/find/suggestions": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: operations["Find_suggestions"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/find/frames": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        post: operations["Find_byIds"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/find/away": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        post: operations["Find_away"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/find/{token}/frames": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: operations["Find_frames"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/find/{token}/ids": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: operations["Find_ids"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/find/{token}/facets": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: operations["Find_facets"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/takes/shoots/{id}/clocks": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: operations["Takes_proposals"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/takes/shoots/{id}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        post: operations["Takes_compare"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/stand-ins": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: operations["StandIns_all"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/stand-ins/mailbox": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: operations["StandIns_mailbox"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/stand-ins/slots/{id}/insert": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        post: operations["StandIns_insert"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/stand-ins/slots/{id}/pull": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        post: operations["StandIns_pull"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/stand-ins/slots/{id}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put: operations["StandIns_changeSlot"];
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/stand-ins/servers/{id}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put: operations["StandIns_changeServer"];
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/stand-ins/drives/{id}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put: operations["StandIns_changeDrive"];
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/previews/v{version}/{picture}/{size}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: operations["Previews_get"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/frames/{id}/camera": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: operations["Frames_camera"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/trail": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: operations["Trail_read"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
}
export type webhooks = Record<string, never>;
export interface components {
    schemas: {
        ArchiveDto: {
            id: string;
            name: string;
        };
        FolderPlanDto: {
            path: string;
            /** @description pattern of a folder inside the originals */
            below?: string;
            originals: string;
            selects: string;
            edits: string;
            delivery: string;
            rejects: string;
        };
        SavedPlanDto: {
            id: string;
            name: string;
            pattern: string;
            folders: components["schemas"]["FolderPlanDto"];
            /** @enum {string} */
            seqBy: "shoot" | "day" | "carried";
        };
        MetadataTemplateDto: {
            /** @enum {string} */
            mode: "replace" | "fill";
            fields: {
                [key: string]: string;
            };
            keywords: string;
            /** @description who is shown, parted by commas */
            persons?: string;
            /** @description stars that frames begin with */
            stars?: number;
            /**
             * @description label that frames begin with
             * @enum {string|null}
             */
            label?: "A" | "B" | "M" | "S" | "P" | null;
            id: string;
            name: string;
        };
        KeeperRulesDto: {
            keeper: {
                [key: string]: unknown;
            };
            reject: {
                [key: string]: unknown;
            };
        };
        LabelWordsDto: {
            name: string;
            meaning: string;
        };
        AllLabelWordsDto: {
            A: components["schemas"]["LabelWordsDto"];
            B: components["schemas"]["LabelWordsDto"];
            M: components["schemas"]["LabelWordsDto"];
            S: components["schemas"]["LabelWordsDto"];
            P: components["schemas"]["LabelWordsDto"];
        };
        StageDto: {
            /** @description what frames keep of it */
            id: string;
            name: string;
            /**
             * @description the label that says the same
             * @enum {string|null}
             */
            label: "A" | "B" | "M" | "S" | "P" | null;
            /**
             * @description what brings keepers here
             * @enum {string|null}
             */
            by: "handoff" | "return" | null;
        };
        NamedFinishDto: {
            name: string;
            /** @description its values, joined by commas: exposure=0.35,mono=plain */
            values: string;
        };
        MessageWordsDto: {
            subject: string;
            text: string;
        };
        StudioMessagesDto: {
            invite: components["schemas"]["MessageWordsDto"];
            reminder: components["schemas"]["MessageWordsDto"];
            pictures: components["schemas"]["MessageWordsDto"];
        };
        SizeRuleDto: {
            /** @enum {string} */
            by: "long" | "short" | "box" | "print" | "whole";
            /** @description of the long or short side */
            pixels?: number;
            width?: number;
            height?: number;
            inches?: number;
            ppi?: number;
        };
        WatermarkDto: {
            /** @description the words; of a picture what it is called */
            text: string;
            /** @description SHA-256 of the picture; none: it is words */
            picture?: string | null;
            /** @enum {string} */
            place: "middle" | "bottom" | "bottom left" | "bottom right" | "top left" | "top right";
            /** @description hundredths of the picture’s width */
            size: number;
            /** @description hundredths */
            strength: number;
        };
        OutputSpecDto: {
            name: string;
            size: components["schemas"]["SizeRuleDto"];
            /** @enum {string} */
            format: "jpeg" | "png" | "webp" | "avif" | "tiff" | "asis";
            quality: number;
            /** @description bytes */
            mostBytes: number | null;
            /** @enum {string} */
            space: "srgb" | "p3" | "grey";
            /** @enum {string} */
            sharpen: "none" | "screen" | "paper";
            watermark: components["schemas"]["WatermarkDto"] | null;
            pattern: string;
            /** @enum {string} */
            metadata: "none" | "rights" | "butPlaces" | "all";
            /** @enum {string} */
            folders: "none" | "day" | "album";
        };
        KeptByNameDto: {
            name: string;
            value: {
                [key: string]: unknown;
            };
        };
        SettingsDto: {
            archive: components["schemas"]["ArchiveDto"];
            studio: string;
            /** @description empty: the archive bears the studio’s name */
            archiveName: string;
            /** @description the first visit is over */
            welcomed: boolean;
            creator: string;
            rights: string;
            pattern: string;
            folders: components["schemas"]["FolderPlanDto"];
            /** @enum {string} */
            seqBy: "shoot" | "day" | "carried";
            plans: components["schemas"]["SavedPlanDto"][];
            plan: string | null;
            templates: components["schemas"]["MetadataTemplateDto"][];
            template: string | null;
            rules: components["schemas"]["KeeperRulesDto"];
            labels: {
                [key: string]: string;
            };
            /** @description texts of other programs and languages that mean a label */
            labelAlso: {
                [key: string]: string[];
            };
            /** @description rating that a keeper without stars says in sidecars, 1…5; 0: none */
            keeperStars: number;
            /**
             * @description the same as a label; null: none
             * @enum {string|null}
             */
            keeperLabel: "A" | "B" | "M" | "S" | "P" | null;
            labelWords: components["schemas"]["AllLabelWordsDto"];
            stages: components["schemas"]["StageDto"][];
            finishes: components["schemas"]["NamedFinishDto"][];
            messages: components["schemas"]["StudioMessagesDto"];
            requiredCopies: number;
            /** @description days within which each copy is read again by itself; 0: none is */
            verifyDays: number;
            /** @description copies that are missing are made by themselves, but of adopted folders */
            copyMissing: boolean;
            dayStartHour: number;
            outputSpecs: components["schemas"]["OutputSpecDto"][];
            /** @description most that previews may take, in 10^9 bytes */
            previewGigabytes: number;
            filters: components["schemas"]["KeptByNameDto"][];
            layouts: components["schemas"]["KeptByNameDto"][];
            searches: components["schemas"]["KeptByNameDto"][];
            /** @description the value holds an address */
            bookmarks: components["schemas"]["KeptByNameDto"][];
            /** @description keys that differ from those that actions come with, by action */
            keys: {
                [key: string]: string[];
            };
            /** @description simulated reader and drives are in use */
            standIns: boolean;
        };
        ChangeSettingsDto: {
            studio?: string;
            archiveName?: string;
            welcomed?: boolean;
            creator?: string;
            rights?: string;
            pattern?: string;
            folders?: components["schemas"]["FolderPlanDto"];
            /** @enum {string} */
            seqBy?: "shoot" | "day" | "carried";
            plans?: components["schemas"]["SavedPlanDto"][];
            plan?: string | null;
            templates?: components["schemas"]["MetadataTemplateDto"][];
            template?: string | null;
            rules?: components["schemas"]["KeeperRulesDto"];
            labels?: {
                [key: string]: string;
            };
            labelAlso?: {
                [key: string]: string[];
            };
            keeperStars?: number;
            /** @enum {string|null} */
            keeperLabel?: "A" | "B" | "M" | "S" | "P" | null;
            labelWords?: components["schemas"]["AllLabelWordsDto"];
            stages?: components["schemas"]["StageDto"][];
            finishes?: components["schemas"]["NamedFinishDto"][];
            messages?: components["schemas"]["StudioMessagesDto"];
            outputSpecs?: components["schemas"]["OutputSpecDto"][];
            requiredCopies?: number;
            verifyDays?: number;
            copyMissing?: boolean;
            previewGigabytes?: number;
            dayStartHour?: number;
            filters?: components["schemas"]["KeptByNameDto"][];
            layouts?: components["schemas"]["KeptByNameDto"][];
            searches?: components["schemas"]["KeptByNameDto"][];
            bookmarks?: components["schemas"]["KeptByNameDto"][];
            keys?: {
                [key: string]: string[];
            };
        };
        SessionDto: {
            /** @description everything asks for the studio password */
            required: boolean;
            signedIn: boolean;
        };
        SignInDto: {
            password: string;
        };
        SetPasswordDto: {
            password: string;
            /** @description asked for where others can reach the server */
            current?: string;
        };
        HealthDto: {
            version: string;
            schema: string;
            /** @description bytes free for the database and previews */
            free: number;
            volumesOnline: number;
            volumes: number;
        };
        MachineDto: {
            /** @description where the index, previews and logs lie */
            dataDir: string;
            /** @description bytes */
            previewBytes: number;
            /** @description days, oldest first */
            databaseCopies: string[];
            /** @description other machines can reach the server */
            network: boolean;
            hasPassword: boolean;
            /** @description SHA-256 of the certificate; null: plain HTTP */
            fingerprint: string | null;
        };
        JobDto: {
            id: string;
            /** @enum {string} */
            kind: "intake" | "handoff" | "delivery" | "copy" | "verify" | "clear" | "move" | "bin" | "release" | "derive" | "take-back" | "return" | "send" | "gallery" | "rebuild" | "carry" | "adopt";
            /** @enum {string|null} */
            deed: "split" | "merge" | "rename" | "aside" | "back" | "arrange" | "takeIn" | "bin" | "forget" | "delete" | "bring-back" | "empty" | "first-reading" | null;
            title: string;
            shootId: string | null;
            /** @description the shoot that frames leave */
            fromShootId: string | null;
            /** @description the reader that an intake copies from */
            readerId: string | null;
            /** @description what the card is called that it works on */
            card: string | null;
            /** @enum {string} */
            state: "queued" | "running" | "paused" | "waiting" | "done" | "failed" | "cancelled";
            reason: string | null;
            filesDone: number;
            filesFailed: number;
            filesTotal: number;
            /** @description bytes */
            bytesDone: number;
            /** @description bytes */
            bytesTotal: number;
            createdAt: number;
            startedAt: number | null;
            finishedAt: number | null;
            /** @description the job that goes first on the same way */
            behind: string | null;
            /** @description why the item that failed last did */
            trouble: string | null;
            /** @description somebody has seen how it ended */
            seen: boolean;
        };
        JobFailureDto: {
            file: string;
            reason: string;
        };
        JobReportDto: {
            job: components["schemas"]["JobDto"];
            failures: components["schemas"]["JobFailureDto"][];
        };
        VolumeDto: {
            id: string;
            name: string;
            /** @enum {string} */
            role: "working" | "backup" | "edit";
            online: boolean;
            /** @description it can be written out and taken off the computer */
            ejectable: boolean;
            /** @description it is there and gives no answer */
            silent: boolean;
            /** @description the other archive that made it its own */
            belongsTo: string | null;
            /** @description the archive that had it, while what that left on it is not taken in; null: none */
            heldBy: string | null;
            /** @description name of the device it lies on; the same name, the same device */
            device: string;
            /** @description nobody knows on which disk it lies: it counts as the same as others */
            deviceUnknown: boolean;
            /** @description the owner’s word on its device */
            stated: string | null;
            /** @description bytes */
            free: number | null;
            /** @description bytes */
            total: number | null;
            /** @description verified copies of the archive on it */
            files: number;
            /** @description files that no other device holds */
            onlyHere: number;
            /** @description copies found missing, changed or unreadable */
            damaged: number;
            /** @description the oldest last proof of a copy on it */
            oldestProof: number | null;
            /** @description files that could not be read within a year, or were not what was written */
            failures: number;
            /** @description it is here and cannot be written to */
            readOnly: boolean;
            /** @description a large card more would not go onto it */
            nearlyFull: boolean;
        };
        SuggestedPlaceDto: {
            /** @description full path on the server’s machine */
            path: string;
            name: string;
            /** @enum {string} */
            kind: "home" | "drive" | "share";
            /** @description bytes */
            free: number;
            /** @description bytes */
            total: number;
        };
        AddVolumeDto: {
            /** @description full path of a folder on the server’s machine */
            root: string;
            name: string;
            /** @enum {string} */
            role: "working" | "backup" | "edit";
            /** @description make the folder where it is not there yet */
            create?: boolean;
            /** @description it is another archive’s drive, and is this one’s from now on */
            takeOver?: boolean;
        };
        ChangeVolumeDto: {
            name?: string;
            /** @enum {string} */
            role?: "working" | "backup" | "edit";
            /** @description the owner’s word on its device */
            device?: string | null;
        };
        ReaderDto: {
            id: string;
            name: string;
            /** @enum {string} */
            kind: "card" | "cable" | "unmounted" | "folder" | "stand-in";
            card: string | null;
            /** @description nobody knows on which device the card lies: nothing proves it for clearing */
            deviceUnknown: boolean;
        };
        AddReaderDto: {
            /** @description full path of an existing folder on the server’s machine */
            root: string;
            name: string;
        };
        CardFileDto: {
            path: string;
            /** @description bytes */
            size: number;
            mtimeMillis: number;
            /** @enum {string} */
            role: "original" | "clip" | "note" | "sidecar" | "edit" | "other";
            /** @description short, lower case; empty where it is none that we know */
            format: string;
            /** @description whether the format is a camera’s raw */
            raw: boolean;
        };
        CaptureTimeDto: {
            /** @description YYYY-MM-DDTHH:mm:ss, the camera’s wall clock */
            local: string;
            millis: number;
            offsetMinutes: number | null;
            correctionMillis: number;
        };
        ShownDto: {
            value: number;
            text: string;
        };
        FrameFactsDto: {
            capture: components["schemas"]["CaptureTimeDto"] | null;
            make: string | null;
            model: string | null;
            serial: string | null;
            lens: string | null;
            exposure: components["schemas"]["ShownDto"] | null;
            aperture: components["schemas"]["ShownDto"] | null;
            iso: number | null;
            focalLength: number | null;
            /** @description EV beside what the camera metered */
            exposureBias: number | null;
            /** @description what was focused on, in dioptres; 0: infinity */
            focus: number | null;
            width: number | null;
            height: number | null;
            orientation: number;
            /** @description a clip’s length */
            seconds: number | null;
            creator: string | null;
            rights: string | null;
            caption: string | null;
            /** @description stars given in the camera or before, 1…5; −1: a reject */
            rating: number | null;
            /** @description text of a label given before */
            label: string | null;
        };
        CardFrameDto: {
            key: string;
            base: string;
            files: components["schemas"]["CardFileDto"][];
            facts: components["schemas"]["FrameFactsDto"];
        };
        CardDto: {
            card: string;
            fingerprint: string;
            /** @description bytes */
            bytes: number;
            frames: components["schemas"]["CardFrameDto"][];
            extras: components["schemas"]["CardFileDto"][];
            notFollowed: string[];
        };
        CardPictureDto: {
            path: string;
        };
        CardSummaryDto: {
            card: string;
            fingerprint: string;
            frames: number;
            /** @description of frames and of all else */
            files: number;
            /** @description bytes */
            bytes: number;
            /** @description the camera’s wall clock */
            first: string | null;
            last: string | null;
            /** @description models, each once */
            bodies: string[];
            /** @description spread over the card’s course */
            pictures: components["schemas"]["CardPictureDto"][];
        };
        StateDeviceDto: {
            /** @description the owner’s word on the device; null takes it back */
            device: string | null;
        };
        ShootDto: {
            id: string;
            title: string;
            /** @description YYYY-MM-DD */
            date: string;
            client: string;
            place: string;
            folders: string[];
            frames: number;
            keepers: number;
            rejects: number;
            files: number;
            /** @description files with fewer verified copies on distinct drives than the studio asks for */
            missingCopies: number;
            /** @description finished hand-offs */
            handoffs: number;
            /** @description finished deliveries */
            deliveries: number;
            leads: string[];
            /** @description keepers at each of the studio’s stages, in their order */
            stages: number[];
            /** @description ids of the frames that were chosen to stand for it */
            chosenLeads: string[];
            /** @description ids of the frames that were chosen to stand for its folders */
            folderLeads: string[];
            createdAt: number;
            /** @description name pattern */
            pattern: string;
            /** @description pattern of its folders */
            folderPath: string;
            /** @description pattern of a folder inside the originals */
            below: string;
            /** @description name of the folder that its originals lie in */
            originals: string;
            /** @description name of the folder for copies that go to editing */
            selects: string;
            /** @description name of the folder in which edits come back; of a shoot that lies in an adopted folder: its path below each drive */
            edits: string;
            /** @description name of the folder that rejects are set aside into */
            rejectsFolder: string;
            /** @description where {number} carries on */
            nextSeq: number;
            /** @enum {string} */
            seqBy: "shoot" | "day" | "carried";
            /** @description minutes east of UTC */
            zoneMinutes: number;
            /** @description the shoot that it was merged into */
            mergedInto: string | null;
            /** @description the folder that holds what is said of it, where its own are not the archive’s */
            keptIn: string | null;
            /** @description whether sidecars are written beside its pictures */
            sidecars: boolean;
        };
        ShootMonthDto: {
            /** @description YYYY-MM */
            month: string;
            shoots: number;
            frames: number;
        };
        ShootTotalsDto: {
            shoots: number;
            frames: number;
            missingCopies: number;
            /** @description the oldest first */
            months: components["schemas"]["ShootMonthDto"][];
        };
        ShootGroupDto: {
            /** @description empty: of those that name none */
            name: string;
            shoots: number;
            frames: number;
            /** @description YYYY-MM-DD */
            first: string;
            /** @description YYYY-MM-DD */
            last: string;
        };
        SkimmedFrameDto: {
            id: string;
            name: string;
            /** @description corrected wall clock */
            time: string | null;
            /** @description key of the picture that shows it */
            picture: string;
        };
        ChooseLeadsDto: {
            /** @description none: Arkiv chooses */
            frameIds: string[];
        };
        FolderLeadsDto: {
            /** @description each stands for the folder that it lies in */
            frameIds: string[];
        };
        ClockCorrectionDto: {
            /** @description make · model · serial */
            body: string;
            /** @description milliseconds that are added to its times */
            millis: number;
        };
        CorrectClocksDto: {
            corrections: components["schemas"]["ClockCorrectionDto"][];
        };
        FrameColumnsDto: {
            revision: number;
            count: number;
            columns: {
                [key: string]: ((string | number) | null)[];
            };
        };
        OperationDto: {
            id: string;
            /** @description what is changed: stars, verdict, label */
            kind: string;
            /** @description id of the frame */
            subject: string;
            from: (string | number | boolean) | null;
            to: (string | number | boolean) | null;
            /** @description milliseconds since 1970 */
            at: number;
            /** @description who; empty: the studio */
            by: string;
            group: string;
            pass: string | null;
            window: string;
            /** @description the group that this one takes back */
            undoes: string | null;
        };
        HistoryDto: {
            /** @description in the journal’s order */
            operations: components["schemas"]["OperationDto"][];
            /** @description number before which older ones are */
            before: number | null;
        };
        SaidDto: {
            kind: string;
            frames: number;
            /** @description missing: it was set to several values */
            to?: (string | number | boolean) | null;
            /** @description what the pile or album is called */
            name: string | null;
        };
        PlacedFrameDto: {
            id: string;
            shootId: string;
            /** @description title */
            shoot: string;
            name: string;
            folder: string;
            /** @description corrected wall clock */
            time: string | null;
            body: string | null;
            /** @enum {string} */
            verdict: "keep" | "reject" | "undecided";
            stars: number;
            /** @enum {string|null} */
            label: "A" | "B" | "M" | "S" | "P" | null;
            /** @description original, clip */
            role: string;
            format: string;
            picture: string | null;
        };
        DecidedStepDto: {
            id: string;
            number: number;
            /** @description milliseconds since 1970 UTC */
            at: number;
            /** @description who; empty: the studio */
            by: string;
            window: string;
            frames: number;
            said: components["schemas"]["SaidDto"][];
            /** @description kinds of marks that are not named */
            more: number;
            /** @description some of its frames */
            shown: components["schemas"]["PlacedFrameDto"][];
            isUndone: boolean;
            /** @description when it was taken back or done again last */
            turnedAt: number | null;
            /** @description false: it is taken back elsewhere */
            canTurn: boolean;
        };
        DecidedStepsDto: {
            /** @description the newest first */
            decisions: components["schemas"]["DecidedStepDto"][];
            more: boolean;
        };
        TurnDto: {
            /** @enum {string} */
            to: "back" | "again";
        };
        TurnedDto: {
            /** @description marks that were changed */
            marks: number;
            /** @description marks that were changed since, and stay */
            skipped: number;
        };
        MarkOperationDto: {
            id: string;
            /** @description verdict, stars, label, note, stage, take, caption, “text ” or “finish ” with the field, “pile ” with the id of one, or “keyword ” or “person ” with the word */
            kind: string;
            /** @description id of the frame */
            subject: string;
            from: (string | number | boolean) | null;
            to: (string | number | boolean) | null;
            /** @description milliseconds since 1970 */
            at: number;
            /** @description who; what comes from a window is the studio’s */
            by?: string;
            group: string;
            pass?: string | null;
            window: string;
            /** @description the group that this one takes back */
            undoes?: string | null;
        };
        MarksDto: {
            operations: components["schemas"]["MarkOperationDto"][];
            /** @description id of the archive that the marks belong to; another one refuses them */
            archive?: string;
        };
        AppliedMarksDto: {
            applied: number;
            unknown: string[];
        };
        FramesAskedDto: {
            frameIds: string[];
        };
        FrameMarksDto: {
            id: string;
            shootId: string;
            /** @enum {string} */
            verdict: "keep" | "reject" | "undecided";
            stars: number;
            /** @enum {string|null} */
            label: "A" | "B" | "M" | "S" | "P" | null;
            /** @description words to whoever edits it */
            note: string | null;
            /** @description id of the stage at which it stands */
            stage: string | null;
            /** @description what was said of its place among takes */
            take: string | null;
            /** @description ids of the piles that it is in, joined by + */
            piles: string;
            /** @description the albums that it is in, each with a colon and its place, joined by + */
            albums: string;
            /** @description what is said of it in words */
            caption: string | null;
            /** @description joined by line ends */
            keywords: string;
            /** @description who is shown, joined by line ends */
            persons: string;
            /** @description JSON of what else is said of it, by field; empty: nothing */
            texts: string;
            /** @description values of its finishing, joined by commas; empty: as it is */
            finish: string;
        };
        MarksNowDto: {
            /** @description those that are not in the archive are left out */
            frames: components["schemas"]["FrameMarksDto"][];
        };
        ShootFactsDto: {
            title?: string;
            /** @description empty: none */
            client?: string;
            /** @description empty: none */
            place?: string;
        };
        AlbumDto: {
            id: string;
            name: string;
            /** @description id of the album that it stands in */
            parent: string | null;
            /** @description where it stands among those beside it: places sort by their characters */
            place: string;
            /** @description the line that fills it; null: filled by hand */
            rule: string | null;
            /** @description id of the frame that stands for it */
            lead: string | null;
            /** @description taken away, with its frames left in it */
            removed: boolean;
        };
        HeldAlbumDto: {
            id: string;
            /** @description frames in it and below it */
            count: number;
            /** @description keys of pictures that it shows itself by */
            pictures: string[];
            /** @description why its rule cannot be followed */
            problem: string | null;
        };
        NewAlbumDto: {
            name: string;
            /** @description id of the album that it is to stand in */
            parent?: string;
            /** @description the line of words and facts that fills it */
            rule?: string;
            /** @description id of the pile whose frames come into it */
            pile?: string;
        };
        BringAlbumsDto: {
            /** @description albums as JSON, or names of frames, one a line */
            text: string;
            /** @description name of the file, which names the album of a list */
            name: string;
            /** @description false: only says what would come */
            bring: boolean;
        };
        BroughtAlbumsDto: {
            albums: number;
            frames: number;
            /** @description names that nothing here has */
            missing: string[];
            /** @description names that several frames have */
            several: string[];
            /** @description ids of the outermost albums that were made */
            made: string[];
            /** @description frames of which a table says something that they did not have */
            marked: number;
            /** @description what of a table is not taken over, in words */
            left: string[];
        };
        AlbumChangeDto: {
            name?: string;
            /** @description null: it stands in none */
            parent?: string | null;
            /** @description the album before which it is to stand; null: at the end */
            before?: string | null;
            /** @description the line that fills it */
            rule?: string;
            /** @description the frame that stands for it; null: its first */
            lead?: string | null;
            /** @description true: taken away; false: brought back with all its frames */
            removed?: boolean;
        };
        LyingFileDto: {
            assetId: string;
            volumeId: string;
            /** @description the drive’s name */
            volume: string;
            online: boolean;
            name: string;
            /** @description its place below the drive */
            path: string;
            /** @description on this computer, for who sits at it */
            whole: string | null;
        };
        CopyOfDto: {
            id: string;
            shootId: string;
            name: string;
        };
        LyingFilesDto: {
            /** @description who asks sits at the computer on which Arkiv runs */
            here: boolean;
            files: components["schemas"]["LyingFileDto"][];
            /** @description the frame that it is a copy of */
            copyOf: components["schemas"]["CopyOfDto"] | null;
        };
        ShowFolderDto: {
            assetId: string;
            volumeId: string;
        };
        OpenFramesDto: {
            frameIds: string[];
            /** @description name of the program */
            program: string;
        };
        OpenedDto: {
            files: number;
        };
        OpenCopiesDto: {
            frameIds: string[];
            /** @description name of the program */
            program: string;
            /** @description the drive that they were handed to */
            volumeId: string;
        };
        ProgramDto: {
            name: string;
            /** @description path of the program, or its name where the system finds it */
            command: string;
            /** @description {files} among them stands for the files; else they come last */
            args: string[];
            /**
             * @description which file of a frame it gets, where it has both
             * @enum {string}
             */
            takes: "raw" | "picture";
        };
        ProgramsDto: {
            programs: components["schemas"]["ProgramDto"][];
        };
        ArchiveHereDto: {
            /** @description its data directory, in full */
            folder: string;
            name: string;
            /** @description the one that is asked */
            own: boolean;
            /** @description where it answers; null: it is closed, or has not told yet */
            address: string | null;
            /** @description a server has it open */
            open: boolean;
            /** @description its index is in its folder */
            there: boolean;
            /** @description when it was opened last, milliseconds since 1970 UTC */
            opened: number;
        };
        NewArchiveDto: {
            folder: string;
            name: string;
        };
        ArchiveAddressDto: {
            address: string;
        };
        ArchiveFolderDto: {
            folder: string;
        };
        KindBytesDto: {
            raw: number;
            /** @description JPEG, HEIC, TIFF … as the camera made them */
            picture: number;
            clip: number;
            /** @description finished pictures that came back */
            edit: number;
            /** @description voice notes, a card’s own files */
            other: number;
        };
        SpaceDriveDto: {
            id: string;
            name: string;
            /** @enum {string} */
            role: "working" | "backup" | "edit";
            online: boolean;
            /** @description bytes */
            free: number | null;
            /** @description bytes */
            total: number | null;
            /** @description of the archive’s copies on it */
            bytes: components["schemas"]["KindBytesDto"];
        };
        SpaceYearDto: {
            /** @description of the shoots’ days */
            year: string;
            /** @description of all copies on all drives */
            bytes: components["schemas"]["KindBytesDto"];
        };
        SpaceShootDto: {
            id: string;
            title: string;
            /** @description YYYY-MM-DD */
            date: string;
            frames: number;
            /** @description of all copies on all drives */
            bytes: number;
        };
        SpareOfDto: {
            id: string;
            title: string;
            /** @description YYYY-MM-DD */
            date: string;
            frames: number;
            /** @description of all copies on all drives */
            bytes: number;
            volumeId: string;
            /** @description the drive’s name */
            volume: string;
            online: boolean;
            files: number;
        };
        SpaceDto: {
            drives: components["schemas"]["SpaceDriveDto"][];
            /** @description the oldest first */
            years: components["schemas"]["SpaceYearDto"][];
            all: components["schemas"]["KindBytesDto"];
            /** @description bytes of copies that lie with editing */
            handed: number;
            /** @description bytes of finished files in sets, and of their zips */
            finished: number;
            /** @description bytes */
            previews: number;
            /** @description bytes */
            previewsMost: number;
            /** @description copies that each file should have */
            required: number;
            /** @description the largest */
            shoots: components["schemas"]["SpaceShootDto"][];
            shootCount: number;
            /** @description the largest, with what would be taken off */
            spare: components["schemas"]["SpareOfDto"][];
            /** @description of all shoots */
            spareBytes: number;
            /** @description shoots */
            spareCount: number;
        };
        SpaceCountingDto: {
            /** @description files of the shoots that are counted */
            files: number;
            /** @description and of all that are to be; 0: nothing is being counted */
            of: number;
        };
        OldRejectsDto: {
            /** @description shoots with rejects by the studio’s rules, adopted folders left out */
            shoots: number;
            /** @description rejects of all of them */
            frames: number;
            /** @description of all copies of these on all drives */
            bytes: number;
            /** @description shoots with rejects that are younger */
            younger: number;
            /** @description the oldest, or those after the one that is asked for, as many as go in one go, with what their rejects alone are */
            oldest: components["schemas"]["SpaceShootDto"][];
        };
        BinRejectsDto: {
            shootIds: string[];
        };
        RefusedRejectsDto: {
            /** @description title */
            shoot: string;
            reason: string;
        };
        BegunRejectsDto: {
            jobIds: string[];
            refused: components["schemas"]["RefusedRejectsDto"][];
        };
        PileDto: {
            id: string;
            name: string;
            /** @description 1…9: the digit that chooses it */
            number: number | null;
            /** @description frames in it, over all shoots */
            frames: number;
        };
        PileNameDto: {
            name: string;
        };
        PiledFramesDto: {
            id: string;
            name: string;
            /** @description 1…9: the digit that chooses it */
            number: number | null;
            /** @description frames in it, over all shoots */
            frames: number;
            /** @description shoot by shoot, the newest first; in order of time */
            shown: components["schemas"]["PlacedFrameDto"][];
        };
        EmptiedPileDto: {
            /** @description frames that were taken out */
            frames: number;
            /** @description the group of the journal that takes it back, shoot by shoot */
            group: string;
        };
        PassDto: {
            id: string;
            name: string;
            total: number;
            seenCount: number;
            at: string | null;
            kept: number;
            rejected: number;
            activeMillis: number;
            begunAt: number;
            changedAt: number;
            endedAt: number | null;
            undoneAt: number | null;
            /** @description shoots that it goes over */
            shoots: number;
        };
        PassOverDto: {
            /** @description ids of frames, in their order */
            frames?: string[];
            /** @description the shoots with these words in title, client, place or date; empty: all */
            find?: string;
        };
        PassWhatDto: {
            /**
             * @description by the studio’s rules
             * @enum {string}
             */
            standing?: "left" | "keeper";
            /** @description this many stars or more */
            stars?: number;
        };
        NewPassDto: {
            id: string;
            name: string;
            over: components["schemas"]["PassOverDto"];
            /** @description missing: all of them */
            what?: components["schemas"]["PassWhatDto"];
        };
        PassPartDto: {
            shootId: string;
            title: string;
            frames: number;
            kept: number;
            rejected: number;
        };
        WholePassDto: {
            id: string;
            name: string;
            frames: string[];
            total: number;
            /** @description another number: its frames stand in another order, as some went into other shoots */
            arranged: number;
            seen: string;
            seenCount: number;
            at: string | null;
            kept: number;
            rejected: number;
            activeMillis: number;
            begunAt: number;
            changedAt: number;
            endedAt: number | null;
            undoneAt: number | null;
            parts: components["schemas"]["PassPartDto"][];
        };
        PassChoicesAskedDto: {
            over: components["schemas"]["PassOverDto"];
        };
        PassChoicesDto: {
            all: number;
            /** @description undecided by the studio’s rules */
            left: number;
            keepers: number;
            /** @description with 1, 2 … 5 stars or more */
            stars: number[];
        };
        PassProgressDto: {
            /** @description places of the seen ones among its frames: 0-33,40 */
            seen: string;
            seenCount: number;
            /** @description as the pass says it: places of another arrangement are refused; missing: not asked */
            arranged?: number;
            /** @description the frame where it goes on */
            at?: string | null;
            /** @description the shoot that is looked at: `kept` and `rejected` are of its frames */
            shootId: string;
            kept: number;
            rejected: number;
            /** @description milliseconds in which somebody was at it */
            activeMillis: number;
            /** @description it is stopped; it can go on later */
            ended: boolean;
        };
        DecisionDto: {
            /** @description id of the frame */
            subject: string;
            /** @description verdict, stars, label … */
            kind: string;
            /** @description milliseconds since 1970 */
            at: number;
        };
        ComparedPassesDto: {
            /** @description ids of frames that both have seen and kept */
            both: string[];
            onlyFirst: string[];
            onlySecond: string[];
            /** @description seen by both and kept by neither */
            neither: string[];
            /** @description frames of either that only one of them has seen */
            seenByOne: number;
        };
        UndonePassDto: {
            /** @description marks that are again what they were before it */
            marks: number;
            /** @description marks that were changed since, and stayed */
            skipped: number;
        };
        TermColumnsDto: {
            count: number;
            columns: {
                [key: string]: unknown[];
            };
        };
        VocabularyChangeDto: {
            id: string;
            /** @description milliseconds since 1970 */
            at: number;
            words: string;
            /** @enum {string} */
            state: "open" | "done" | "undoing" | "undone";
            /** @description frames that were changed so far */
            frames: number;
        };
        LastChangeDto: {
            last: components["schemas"]["VocabularyChangeDto"] | null;
        };
        ShootRostersDto: {
            /** @description ids of the terms that the lists stand under */
            terms: string[];
        };
        UnfiledWordDto: {
            word: string;
            frames: number;
        };
        RosterEntryDto: {
            number: string;
            word: string;
        };
        TermChangeDto: {
            /** @enum {string} */
            do: "add" | "set" | "roster" | "rename" | "move" | "join" | "split" | "remove";
            id?: string;
            word?: string;
            parent?: string | null;
            into?: string;
            words?: string[];
            synonyms?: string[];
            /** @description the numbered list under it */
            entries?: components["schemas"]["RosterEntryDto"][];
            /** @enum {string} */
            kind?: "subject" | "person" | "place" | "event";
            deliver?: boolean;
            /** @description takes it off frames too */
            frames?: boolean;
        };
        FollowingDto: {
            /** @description frames whose keywords follow */
            frames: number;
            shoots: number;
        };
        BringTermsDto: {
            text: string;
            /** @enum {string} */
            format: "indented" | "turtle" | "rdfxml";
            /** @description false: only says what would come */
            bring: boolean;
        };
        BroughtDto: {
            /** @description terms that were not there */
            added: number;
            /** @description terms that learned synonyms, or another kind */
            changed: number;
        };
        WaitingSidecarsDto: {
            volumeId: string;
            /** @description the drive’s name */
            volume: string;
            frames: number;
            reason: string;
        };
        TemplateTextsDto: {
            /** @enum {string} */
            mode: "replace" | "fill";
            fields: {
                [key: string]: string;
            };
            keywords: string;
            /** @description who is shown, parted by commas */
            persons?: string;
            /** @description stars that frames begin with */
            stars?: number;
            /**
             * @description label that frames begin with
             * @enum {string|null}
             */
            label?: "A" | "B" | "M" | "S" | "P" | null;
        };
        IntakePartDto: {
            title: string;
            /** @description YYYY-MM-DD */
            date: string;
            client: string;
            place: string;
            /** @description keys of its frames */
            keys: string[];
        };
        StartIntakeDto: {
            /** @description keys of frames that are probably archived */
            known?: string[];
            /** @enum {string} */
            seqBy?: "shoot" | "day" | "carried";
            template?: components["schemas"]["TemplateTextsDto"];
            /** @description parts that become shoots of their own */
            more?: components["schemas"]["IntakePartDto"][];
            shootId?: string;
            /** @description keys of frames that stay on the card */
            leaveOut?: string[];
            corrections?: components["schemas"]["ClockCorrectionDto"][];
            readerId: string;
            fingerprint: string;
            title: string;
            /** @description YYYY-MM-DD */
            date: string;
            client: string;
            place: string;
            pattern: string;
            folders: components["schemas"]["FolderPlanDto"];
            seqStart: number;
            zoneMinutes: number;
            targets: string[];
        };
        StartedPartDto: {
            jobId: string;
            shootId: string;
        };
        StartedIntakeDto: {
            jobId: string;
            shootId: string;
            /** @description one for each further part */
            others: components["schemas"]["StartedPartDto"][];
        };
        LatestArrivalDto: {
            card: string;
            at: number;
            frames: components["schemas"]["PlacedFrameDto"][];
        };
        TogetherDto: {
            jobId: string;
            title: string;
        };
        IntakeFileDto: {
            from: string;
            to: string;
            /** @description bytes */
            size: number;
            /** @enum {string} */
            fate: "todo" | "copied" | "partly" | "already-here" | "failed" | "left-out";
            sha256: string | null;
            reason: string | null;
            /** @description volumes with a verified copy */
            verifiedOn: string[];
        };
        IntakeReportDto: {
            /** @description the other shoots of the same card */
            together: components["schemas"]["TogetherDto"][];
            readerId: string;
            card: string;
            targets: string[];
            folders: string[];
            receipts: string[];
            files: components["schemas"]["IntakeFileDto"][];
        };
        ProvenFramesDto: {
            /** @description all that are proven */
            total: number;
            /** @description the newest of them */
            frames: components["schemas"]["PlacedFrameDto"][];
        };
        ClearCardDto: {
            fingerprint: string;
        };
        StartedJobDto: {
            jobId: string;
        };
        ClearanceDto: {
            safe: boolean;
            required: number;
            proven: number;
            total: number;
            reasons: string[];
        };
        UploadLinkDto: {
            id: string;
            title: string;
            /** @description whom it is for; empty: several */
            name: string;
            /** @description bytes that may come by it */
            most: number;
            /** @description bytes that have come */
            came: number;
            until: number | null;
            /** @description when it was made, milliseconds since 1970 UTC */
            at: number;
            /** @description null: it cannot be read any more */
            address: string | null;
            /** @description null: none is asked for */
            code: string | null;
        };
        NewUploadLinkDto: {
            /** @description what is asked for */
            title: string;
            /** @description whom it is for; empty: several, who each say who they are */
            name: string;
            /** @description bytes */
            most: number;
            /** @description milliseconds since 1970 UTC; null: until it is taken back */
            until: number | null;
            withCode: boolean;
        };
        MadeUploadLinkDto: {
            id: string;
        };
        ComingFileDto: {
            id: string;
            path: string;
            /** @description bytes */
            size: number;
            /** @description bytes that are here */
            come: number;
        };
        UploadDto: {
            id: string;
            name: string;
            /** @description when it was begun, milliseconds since 1970 UTC */
            at: number;
            /** @description the reader under which it can be taken in; null: it is coming */
            readerId: string | null;
            /** @description who sends it by a link; null: the studio itself does */
            by: string | null;
            /** @description that are whole */
            files: number;
            /** @description of these */
            bytes: number;
            /** @description that are not whole */
            coming: components["schemas"]["ComingFileDto"][];
        };
        NewUploadDto: {
            name: string;
        };
        HereFileDto: {
            /** @description its name in the upload */
            path: string;
            /** @description bytes */
            size: number;
            sha256: string;
        };
        WholeFileDto: {
            /** @description of the file as its sender read it, in lower-case hex */
            sha256: string;
        };
        NamedFileDto: {
            /** @description its name in the upload */
            path: string;
        };
        LeftFileDto: {
            path: string;
            reason: string;
        };
        WatchRuleDto: {
            id: string;
            name: string;
            /** @description told on the server’s own machine alone */
            root: string | null;
            on: boolean;
            types: ("raw" | "jpeg" | "other" | "clip")[];
            below: boolean;
            out: string;
            settleSeconds: number;
            shootId: string | null;
            title: string;
            client: string;
            place: string;
            plan: string | null;
            template: string | null;
            album: string | null;
            /** @enum {string} */
            after: "keep" | "bin";
            /** @description files are being taken in */
            busy: boolean;
            /** @description files that stay, and why */
            left: components["schemas"]["LeftFileDto"][];
            /** @description why nothing is taken in */
            trouble: string | null;
            /** @description files that were taken in */
            taken: number;
            takenAt: number | null;
        };
        WatchWishDto: {
            name: string;
            /** @description full path of a folder on the server’s machine */
            root: string;
            on: boolean;
            types: ("raw" | "jpeg" | "other" | "clip")[];
            /** @description folders below it too */
            below: boolean;
            /** @description name of a folder whose pictures stay out; empty: there is none */
            out: string;
            /** @description seconds for which a file must not have changed */
            settleSeconds: number;
            /** @description the shoot that all go into; null: one a day */
            shootId: string | null;
            /** @description of shoots that are made for it; empty: the name */
            title: string;
            client: string;
            place: string;
            plan: string | null;
            template: string | null;
            /** @description an album that the frames are put into */
            album: string | null;
            /** @enum {string} */
            after: "keep" | "bin";
        };
        ExampleAskedDto: {
            name: string;
            /** @description full path of a folder on the server’s machine */
            root: string;
            on: boolean;
            types: ("raw" | "jpeg" | "other" | "clip")[];
            /** @description folders below it too */
            below: boolean;
            /** @description name of a folder whose pictures stay out; empty: there is none */
            out: string;
            /** @description seconds for which a file must not have changed */
            settleSeconds: number;
            /** @description the shoot that all go into; null: one a day */
            shootId: string | null;
            /** @description of shoots that are made for it; empty: the name */
            title: string;
            client: string;
            place: string;
            plan: string | null;
            template: string | null;
            /** @description an album that the frames are put into */
            album: string | null;
            /** @enum {string} */
            after: "keep" | "bin";
            /** @description the rule that is changed by it */
            id?: string;
        };
        NamesDto: {
            from: string;
            to: string;
        };
        WouldGoDto: {
            title: string;
            /** @description YYYY-MM-DD */
            date: string;
            /** @description it is there already */
            existing: boolean;
            frames: number;
            files: number;
            /** @description bytes */
            bytes: number;
            /** @description the first of them */
            names: components["schemas"]["NamesDto"][];
        };
        OutsideDto: {
            /** @description names that begin with a dot */
            hidden: number;
            /** @description in folders below */
            below: number;
            /** @description in the folder that stays out */
            out: number;
            /** @description of other types */
            type: number;
            /** @description no pictures */
            unknown: number;
        };
        WatchExampleDto: {
            shoots: components["schemas"]["WouldGoDto"][];
            /** @description files beyond those that were looked at */
            more: number;
            takenBefore: number;
            /** @description files that could not be taken in before */
            left: number;
            outside: components["schemas"]["OutsideDto"];
            /** @description drives that get a copy */
            drives: string[];
        };
        AdoptedDto: {
            id: string;
            /** @description full path; null: its drive is away */
            at: string | null;
            /** @description below its drive; empty: the drive itself */
            path: string;
            drive: string;
            online: boolean;
            /** @enum {string} */
            rule: "top" | "each" | "dated" | "day";
            sidecars: boolean;
            shoots: number;
            frames: number;
            /** @description files that were not read whole yet */
            unread: number;
            trouble: string | null;
            /** @description it is being looked at */
            busy: boolean;
            firstShoot: string | null;
        };
        AdoptAskedDto: {
            /** @description full path of a folder on the server’s machine */
            path: string;
            /**
             * @description which folders become shoots
             * @enum {string}
             */
            rule: "top" | "each" | "dated" | "day";
        };
        WouldBecomeDto: {
            title: string;
            /** @description null: its first picture says it */
            date: string | null;
            /** @description below the adopted folder */
            folder: string;
            frames: number;
        };
        LeftOutDto: {
            hidden: number;
            archive: number;
            link: number;
            unnamed: number;
            root: number;
            other: number;
        };
        AdoptExampleDto: {
            drive: string;
            /** @description a folder that becomes a drive first */
            newDrive: string | null;
            shoots: components["schemas"]["WouldBecomeDto"][];
            moreShoots: number;
            frames: number;
            files: number;
            bytes: number;
            sidecars: number;
            /** @description frames whose day was not read */
            daysUnread: number;
            /** @description what stays out: hidden, archive, link, unnamed, root, other */
            out: components["schemas"]["LeftOutDto"];
        };
        AdoptWishDto: {
            /** @description full path of a folder on the server’s machine */
            path: string;
            /**
             * @description which folders become shoots
             * @enum {string}
             */
            rule: "top" | "each" | "dated" | "day";
            /** @description whether sidecars may be written beside its pictures */
            sidecars: boolean;
        };
        ChangeAdoptedDto: {
            /** @description whether sidecars may be written beside its pictures */
            sidecars: boolean;
        };
        TakeInDto: {
            /** @description named by the pattern; otherwise names stay, unless they are taken */
            rename: boolean;
            /** @description missing: the studio’s */
            pattern?: string;
        };
        TakenInDto: {
            /** @description shoots of which a job was begun */
            shoots: number;
            frames: number;
            /** @description why a shoot could not be taken in */
            left: string[];
        };
        ForgottenDto: {
            frames: number;
        };
        CopyPlanDto: {
            files: number;
            /** @description bytes */
            bytes: number;
            /** @description names of the drives they go to */
            volumes: string[];
            /** @description files that no drive which is here can take */
            nowhere: number;
            /** @description frames of which previews alone go there */
            previews: number;
        };
        CopiesAskedDto: {
            shootId?: string;
            volumeId?: string;
            /** @description with a shoot: the drive that gets what it does not hold yet */
            to?: string;
            /** @description of these the keepers alone */
            keepers?: boolean;
            /** @description previews of frames whose pictures do not go there, to be looked through elsewhere */
            previews?: boolean;
        };
        ReleasePlanDto: {
            files: number;
            /** @description bytes */
            bytes: number;
            /** @description files with too few copies on other drives: they stay */
            stay: number;
            /** @description copies on distinct devices that each file must have elsewhere */
            required: number;
            /** @description names of the drives that hold the others */
            elsewhere: string[];
        };
        ReleaseAskedDto: {
            shootId: string;
            volumeId: string;
            /** @description all but the keepers, which stay there */
            butKeepers?: boolean;
        };
        KeptOnDto: {
            volumeId: string;
            /** @description verified copies */
            files: number;
            /** @description bytes */
            bytes: number;
            /** @description copies found missing, changed or unreadable */
            damaged: number;
            /** @description when the copy that was not read for longest was read */
            verifiedSince: number | null;
        };
        SplitOffDto: {
            frameIds: string[];
            title: string;
            /** @description YYYY-MM-DD */
            date?: string;
        };
        MoveRequestDto: {
            /** @enum {string} */
            kind: "split" | "merge" | "rename" | "aside" | "back" | "arrange" | "takeIn";
            shootId: string;
            into?: string;
            frameIds?: string[];
            title?: string;
            /** @description YYYY-MM-DD */
            date?: string;
            /** @description split: further shoots made of it */
            more?: components["schemas"]["SplitOffDto"][];
            client?: string;
            place?: string;
            pattern?: string;
            seqStart?: number;
            /** @description arrange: the name of the one frame */
            name?: string;
            /** @description arrange: the folder below the originals; empty: the originals */
            below?: string;
            /** @description arrange: the day it is due, YYYY-MM-DD */
            due?: string;
            /** @description arrange: the frames stay; copies of them come to lie there */
            copies?: boolean;
            /** @description aside: those that are undecided by the studio’s rules too */
            undecided?: boolean;
            rename: boolean;
        };
        MoveWayDto: {
            from: string;
            to: string;
        };
        MovePlanDto: {
            /** @description of one copy of each file */
            bytes: number;
            /** @description names of the drives that hold copies */
            volumes: string[];
            /** @description those of them that are not connected */
            away: string[];
            /** @description of these frames, how many were handed to editing */
            handedOff: number;
            /** @description of these frames, how many were delivered */
            delivered: number;
            frames: number;
            files: number;
            folders: string[];
            /** @description every file that would move */
            ways: components["schemas"]["MoveWayDto"][];
            /** @description settings of other programs that go along */
            along: string[];
            problems: string[];
        };
        StartedMoveDto: {
            jobId: string;
            /** @description the shoot that frames go into */
            shootId: string;
        };
        BinTimeDto: {
            id: string;
            /** @enum {string} */
            deed: "bin" | "forget";
            shootId: string;
            /** @description title */
            shoot: string;
            /** @description ms since 1970 */
            at: number;
            frames: number;
            files: number;
            /** @description of one copy of each file */
            bytes: number;
            /** @description names of the drives that hold any of it */
            volumes: string[];
            /** @description copies on drives that are away, which go into the bin when these return */
            waiting: number;
            /** @description keys of a few of its pictures */
            pictures: string[];
        };
        BinDueDto: {
            /** @description name of the drive */
            volume: string;
            /** @enum {string} */
            deed: "bin" | "back" | "delete";
            files: number;
        };
        BinDto: {
            /** @description the newest first */
            times: components["schemas"]["BinTimeDto"][];
            /** @description what drives that are away have still to do */
            due: components["schemas"]["BinDueDto"][];
        };
        BinRequestDto: {
            /** @enum {string} */
            deed: "bin" | "forget" | "delete";
            shootId: string;
            /** @description these; otherwise the rejects by the studio’s rules */
            frameIds?: string[];
            /** @description those that are undecided by the studio’s rules too */
            undecided?: boolean;
            /** @description delete: how many frames, typed by whoever asks for it */
            typed?: number;
        };
        BinPlanDto: {
            /** @description of one copy of each file */
            bytes: number;
            /** @description names of the drives that hold copies */
            volumes: string[];
            /** @description those of them that are not connected */
            away: string[];
            /** @description of these frames, how many were handed to editing */
            handedOff: number;
            /** @description of these frames, how many were delivered */
            delivered: number;
            frames: number;
            files: number;
        };
        StartedBinDto: {
            jobId: string;
        };
        BringBackDto: {
            binId: string;
            /** @description these; otherwise all of that time */
            frameIds?: string[];
        };
        EmptyBinDto: {
            /** @description these times; otherwise all that are old enough */
            binIds?: string[];
            /** @description days that it has lain there at least; 0: everything */
            olderThanDays?: number;
            /** @description how many frames, typed by whoever asks for it */
            typed: number;
        };
        HandoffFreshDto: {
            frames: number;
            files: number;
            /** @description bytes */
            bytes: number;
        };
        HandoffGoneDto: {
            /** @description what it is called there */
            name: string;
            /** @enum {string} */
            why: "no keeper" | "another name";
        };
        HandoffPlanDto: {
            volumeId: string;
            volume: string;
            online: boolean;
            folders: string[];
            frames: number;
            files: number;
            /** @description bytes */
            bytes: number;
            /** @description what is not there yet, or is another one by now */
            fresh: components["schemas"]["HandoffFreshDto"];
            /** @description sidecars there whose frames say something else by now; part of fresh */
            sidecars: number;
            /** @description files there of which only what they say is another by now */
            words: number;
            /** @description frames there that would not go any more */
            gone: components["schemas"]["HandoffGoneDto"][];
            rule: string;
        };
        HandoffResultDto: {
            /** @description to whom; empty: nobody was named */
            person: string;
            /** @description frames of it that lie there still, and were not brought anew since */
            there: number;
            volumeId: string;
            volume: string;
            folders: string[];
            frames: number;
            files: number;
            /** @description bytes */
            bytes: number;
            verified: number;
            failed: number;
        };
        HandoffDto: {
            jobId: string;
            at: number;
            result: components["schemas"]["HandoffResultDto"];
        };
        StartHandoffDto: {
            volumeId: string;
            /** @description in the folder of the shoot; missing: the one for selects */
            folder?: string;
            /**
             * @description new: what is not there yet, or changed since
             * @enum {string}
             */
            part?: "all" | "new";
            /** @description to whom */
            person?: string;
        };
        HeardFromEditingDto: {
            /** @description frames into whose copies another program wrote something that was taken in */
            frames: number;
            /** @description when last; milliseconds since 1970 UTC; null: never */
            at: number | null;
            /** @description why some copies cannot be read */
            problems: string[];
        };
        HandoffPlaceDto: {
            volumeId: string;
            /** @description in the folder of the shoot; missing: the one for selects */
            folder?: string;
        };
        ReturnedFrameDto: {
            id: string;
            name: string;
            /** @description key of the picture that its camera took */
            picture: string | null;
        };
        ReturnDto: {
            assetId: string;
            /** @description of its file */
            name: string;
            /** @description milliseconds since 1970 */
            at: number;
            /** @enum {string} */
            state: "matched" | "asks" | "unknown" | "aside" | "over";
            /**
             * @description by what it was matched
             * @enum {string|null}
             */
            by: "id" | "derived" | "preserved" | "name" | "time" | "look" | "hand" | null;
            /** @description a frame of it had an edit already */
            second: boolean;
            /** @description key of its picture; null: its file is gone */
            picture: string | null;
            /** @description below its drive */
            place: string | null;
            originals: components["schemas"]["ReturnedFrameDto"][];
            /** @description among which it is, the likeliest first */
            among: components["schemas"]["ReturnedFrameDto"][];
        };
        ReturnFolderDto: {
            volumeId: string;
            /** @description below the drive */
            path: string;
        };
        ReturnFoldersDto: {
            folders: components["schemas"]["ReturnFolderDto"][];
        };
        ReturnAnswerDto: {
            /** @description what it was made from; none: nothing of this shoot */
            frameIds: string[];
        };
        TakenPictureDto: {
            /** @description its key */
            picture: string | null;
            /** @description pixels */
            width: number | null;
            height: number | null;
            /** @description Exif orientation 1…8 */
            orientation: number;
        };
        EditOfFrameDto: {
            assetId: string;
            name: string;
            at: number;
            picture: string | null;
            /** @description pixels, upright */
            width: number | null;
            height: number | null;
            /** @description frames that it was made from */
            originals: number;
        };
        EditsOfFrameDto: {
            /** @description what its camera took */
            taken: components["schemas"]["TakenPictureDto"];
            /** @description the newest first */
            edits: components["schemas"]["EditOfFrameDto"][];
        };
        WatermarkPictureDto: {
            /** @description the name that specs know it by */
            picture: string;
        };
        StartDeliveryDto: {
            name: string;
            volumeId: string;
            /** @description which of the keepers: a line of words and facts; missing: all */
            line?: string;
            /** @description all are made at once */
            specs: components["schemas"]["OutputSpecDto"][];
            /** @description folder of the raws, which go along with their sidecars; missing: they do not */
            raws?: string;
            /** @description a PDF of all pictures with their names */
            sheet?: boolean;
            /** @description as a bag (RFC 8493) */
            bag?: boolean;
        };
        DeliveryPlanDto: {
            folder: string;
            frames: number;
            /** @description ids of the first of them */
            first: string[];
            rule: string;
            names: string[];
            files: number;
            /** @description frames of which nothing can go as it is, where a spec asks for that */
            unfinished: number;
            /** @description frames that are finished here, of which a file as it is shows nothing */
            withoutFinish: number;
            /** @description frames whose raw goes along */
            raws: number;
            /** @description bytes of these raws */
            rawBytes: number;
            /** @description its folder is there already: under this name it cannot be made */
            exists: boolean;
        };
        SampleAskedDto: {
            name: string;
            volumeId: string;
            /** @description which of the keepers: a line of words and facts; missing: all */
            line?: string;
            /** @description all are made at once */
            specs: components["schemas"]["OutputSpecDto"][];
            /** @description folder of the raws, which go along with their sidecars; missing: they do not */
            raws?: string;
            /** @description a PDF of all pictures with their names */
            sheet?: boolean;
            /** @description as a bag (RFC 8493) */
            bag?: boolean;
            /** @description missing: the first keeper */
            frameId?: string;
        };
        SampleFromDto: {
            /** @description key of the picture that it is made of */
            picture: string;
            width: number;
            height: number;
        };
        SampleDto: {
            frameId: string;
            /** @description of the file that would be made */
            name: string;
            bytes: number;
            width: number;
            height: number;
            from: components["schemas"]["SampleFromDto"];
            /** @description media type */
            type: string;
            /** @description the file, in base64 */
            data: string;
        };
        SamplesDto: {
            sample: components["schemas"]["SampleDto"] | null;
        };
        SetAlongDto: {
            /** @description folder of the raws; null: none go along */
            raws: string | null;
            sheet: boolean;
            bag: boolean;
        };
        ZipDto: {
            path: string;
            /** @description bytes */
            size: number;
            sha256: string;
        };
        DeliveryResultDto: {
            /** @description which of the keepers it is of; empty: all */
            line: string;
            volumeId: string;
            volume: string;
            folder: string;
            files: number;
            /** @description bytes */
            bytes: number;
            failed: number;
            /** @description how many times it was made by now */
            times: number;
            along: components["schemas"]["SetAlongDto"];
            manifest: string;
            /** @description the sheet of its pictures */
            sheet: string | null;
            zip: components["schemas"]["ZipDto"];
        };
        DeliveryDto: {
            jobId: string;
            title: string;
            at: number;
            result: components["schemas"]["DeliveryResultDto"];
        };
        DeliveryChangesDto: {
            /** @description files of frames that are not in it yet */
            fresh: number;
            /** @description files that would be others by now */
            changed: number;
            /** @description files of frames that are no part of it any more */
            gone: number;
            /** @description names of some of these, in this order */
            names: string[];
            /** @description why it cannot be told */
            problem: string | null;
        };
        LedgerPersonDto: {
            name: string;
            /** @description when they last came in */
            openedAt: number | null;
            favourites: number;
            chosen: number;
            remarks: number;
            /** @description files that they took along */
            taken: number;
        };
        LedgerEntryDto: {
            id: string;
            /** @enum {string} */
            kind: "set" | "posting" | "mail" | "gallery";
            /** @description how the set is called, or where it was posted */
            name: string;
            /** @description milliseconds since 1970 UTC */
            at: number;
            shootId: string;
            shoot: string;
            client: string;
            frames: number;
            files: number;
            /** @description the sentence of each of its specs */
            forms: string[];
            /** @description it brought a set up to date */
            again: boolean;
            /** @description destinations at which files of it were proven to be */
            sentTo: string[];
            /** @description people of a client in a gallery */
            people: components["schemas"]["LedgerPersonDto"][];
        };
        LedgerPageDto: {
            entries: components["schemas"]["LedgerEntryDto"][];
            /** @description from where the next page goes on */
            next: string | null;
        };
        LedgerMonthDto: {
            /** @description YYYY-MM */
            month: string;
            frames: number;
            keepers: number;
            /** @description frames that went out, ever */
            delivered: number;
        };
        WentOutDto: {
            frameId: string;
            /** @description how many times it went out */
            times: number;
            /** @description when last, milliseconds since 1970 UTC */
            at: number;
            /** @description as what it went out last */
            name: string;
        };
        PostingDto: {
            shootId: string;
            /** @description which of the keepers: a line of words and facts; missing: all */
            line?: string;
            where: string;
            /** @description YYYY-MM-DD */
            day: string;
        };
        EnteredDto: {
            id: string;
            frames: number;
        };
        ReachDto: {
            /** @description a folder: whole path on this computer; SFTP: folder there, empty: where one comes in */
            path: string;
            /** @description WebDAV: its address, without name and password */
            url: string;
            /** @description SFTP: name or number of the server */
            host: string;
            port: number;
            user: string;
            /** @description a folder: another program carries on what lies in it */
            carried: boolean;
        };
        DestinationDto: {
            id: string;
            name: string;
            /** @enum {string} */
            kind: "folder" | "webdav" | "sftp";
            reach: components["schemas"]["ReachDto"];
            /** @description an SFTP server’s key, as it was trusted */
            hostKey: string | null;
            /** @description where it is, as it is shown */
            place: string;
            /** @description a password or key is kept for it */
            opens: boolean;
        };
        KeepDestinationDto: {
            name: string;
            /** @enum {string} */
            kind: "folder" | "webdav" | "sftp";
            reach: components["schemas"]["ReachDto"];
            /** @description kept encrypted, and never given out; left out: as it is; empty: none */
            password?: string;
            /** @description as an SSH client keeps it */
            privateKey?: string;
            /** @description of the private key */
            passphrase?: string;
            /** @description an SFTP server’s key, trusted from now on */
            trust?: string | null;
        };
        CheckedDestinationDto: {
            /** @description a server’s key that nobody has trusted yet */
            trusts: string | null;
        };
        SendDto: {
            destinationId: string;
            /** @enum {string} */
            part: "folder" | "zip" | "both";
            /** @description only these frames’ files; null: the whole set */
            frameIds: string[] | null;
        };
        SendingStartedDto: {
            jobId: string;
        };
        SentSetDto: {
            id: string;
            /** @description the set as it is now */
            deliveryId: string;
            /** @description the set was brought up to date since */
            older: boolean;
            /** @description what the destination was called */
            destination: string;
            place: string;
            /** @description below the destination */
            folder: string;
            /** @description another program carries it on: that it arrived is not proven */
            carried: boolean;
            confirmedAt: number | null;
            at: number;
            /** @description null: it is under way */
            finishedAt: number | null;
            files: number;
            bytes: number;
            /** @description files that were read back from there, and were the same */
            arrived: number;
            failed: number;
            /** @description frames, where it is not the whole set */
            frames: number | null;
        };
        GalleryPlaceDto: {
            /** @description where galleries are found */
            address: string;
            /** @description whether others than this computer reach it */
            open: boolean;
            /** @description why they are not served; null: they are */
            problem: string | null;
        };
        BecomesDto: {
            /** @description `pile`: one of its own; else the kind of a mark */
            kind: string;
            /** @description its value */
            value: Record<string, never>;
        };
        GalleryOtherDto: {
            /** @description frames that would come or look otherwise */
            fresh: number;
            /** @description frames that would go */
            gone: number;
        };
        GuestRightsDto: {
            choose: boolean;
            remark: boolean;
            download: boolean;
        };
        GalleryLinkDto: {
            id: string;
            /** @description whom it is for; empty: everybody of the client */
            name: string;
            email: string;
            rights: components["schemas"]["GuestRightsDto"];
            /** @description null: the key that it was kept under is lost */
            address: string | null;
            /** @description null: it asks for none */
            code: string | null;
            /** @description it opens nothing any more since then */
            revokedAt: number | null;
        };
        GalleryGuestDto: {
            id: string;
            linkId: string;
            name: string;
            /** @description when they last came in */
            openedAt: number;
            favourites: number;
            chosen: number;
            remarks: number;
            /** @description files that they took along */
            taken: number;
        };
        GalleryChosenDto: {
            frameId: string;
            name: string;
            picture: string | null;
            /** @description who chose it */
            by: string;
            at: number;
        };
        GalleryRemarkDto: {
            id: number;
            frameId: string;
            name: string;
            picture: string | null;
            text: string;
            /** @description where in the picture, 0 … 1 from its left */
            x: number | null;
            y: number | null;
            by: string;
            at: number;
        };
        GallerySentDto: {
            by: string;
            at: number;
        };
        GalleryDto: {
            id: string;
            shootId: string;
            title: string;
            words: string;
            line: string;
            /** @description long side of the largest pictures, pixels */
            side: number;
            /** @description words of the watermark; empty: there is none */
            watermark: string;
            deliveryId: string | null;
            most: number | null;
            becomes: components["schemas"]["BecomesDto"] | null;
            until: number | null;
            at: number;
            jobId: string;
            madeAt: number | null;
            closedAt: number | null;
            /** @description pictures it shows */
            frames: number;
            /** @description of these, those that are made */
            made: number;
            /** @description null: that cannot be told */
            other: components["schemas"]["GalleryOtherDto"] | null;
            links: components["schemas"]["GalleryLinkDto"][];
            guests: components["schemas"]["GalleryGuestDto"][];
            chosen: components["schemas"]["GalleryChosenDto"][];
            remarks: components["schemas"]["GalleryRemarkDto"][];
            /** @description who said that the choice is made, and when */
            sent: components["schemas"]["GallerySentDto"] | null;
        };
        MakeGalleryDto: {
            title: string;
            words?: string;
            /** @description which of the keepers: a line of words and facts; missing: all */
            line?: string;
            /** @description long side of the largest pictures, pixels */
            side?: number;
            /** @description name of the output spec whose watermark its pictures bear; missing: none */
            watermarkOf?: string;
            /** @description the set whose files may be taken along; missing: none */
            deliveryId?: string;
            /** @description how many are to be chosen, 0: any number; missing: nothing is */
            most?: number;
            /** @description chosen frames go into a pile of its own */
            ownPile?: boolean;
            /** @description what chosen frames become instead */
            becomes?: components["schemas"]["BecomesDto"];
            /** @description until when it is open, milliseconds since 1970 UTC; missing: until it is closed */
            until?: number;
            /** @description whether its address asks for a pass code */
            withCode: boolean;
            /** @description of whoever comes by its own address */
            rights: components["schemas"]["GuestRightsDto"];
        };
        GalleryMadeDto: {
            id: string;
            jobId: string;
        };
        ChoosingGalleryDto: {
            id: string;
            shootId: string;
            title: string;
            until: number | null;
            /** @description how many are to be chosen; 0: any number */
            most: number;
            chosen: number;
            sent: components["schemas"]["GallerySentDto"] | null;
        };
        ClientRemarkDto: {
            frameId: string;
            text: string;
            by: string;
            at: number;
        };
        ChangeGalleryDto: {
            title?: string;
            words?: string;
            deliveryId?: string | null;
            most?: number | null;
            until?: number | null;
        };
        AddGalleryLinkDto: {
            /** @description whom it is for */
            name: string;
            email?: string;
            withCode: boolean;
            rights: components["schemas"]["GuestRightsDto"];
        };
        MailAccountDto: {
            /** @description empty: none is named */
            host: string;
            port: number;
            /** @enum {string} */
            security: "tls" | "starttls" | "none";
            user: string;
            from: string;
            /** @description a password is kept */
            opens: boolean;
        };
        MailAccountWishDto: {
            /** @description name or address of the mail server */
            host: string;
            port: number;
            /** @enum {string} */
            security: "tls" | "starttls" | "none";
            /** @description empty: it asks for nobody */
            user: string;
            /** @description the address that messages come from */
            from: string;
            /** @description missing: as it was; empty: none */
            password?: string;
        };
        AttachedDto: {
            frameId: string;
            from: string;
            name: string;
            bytes: number;
            sha256: string;
        };
        MessageDto: {
            id: string;
            shootId: string;
            galleryId: string | null;
            linkId: string | null;
            /** @enum {string} */
            kind: "invite" | "reminder" | "pictures";
            to: string;
            subject: string;
            /** @description without pass codes */
            text: string;
            attached: components["schemas"]["AttachedDto"][];
            /** @enum {string} */
            state: "waiting" | "sending" | "sent" | "refused" | "unknown";
            /** @description why it went nowhere, and what to do */
            reason: string | null;
            /** @description when the button was pressed */
            at: number;
            sentAt: number | null;
        };
        WrittenOfLinkDto: {
            to: string;
            subject: string;
            text: string;
            linkId: string;
        };
        WriteToGalleryDto: {
            /** @enum {string} */
            kind: "invite" | "reminder" | "pictures";
            messages: components["schemas"]["WrittenOfLinkDto"][];
        };
        MakePicturesDto: {
            frameIds: string[];
            /** @description name of the output spec */
            spec: string;
        };
        MadePictureDto: {
            frameId: string;
            /** @description of the file */
            name: string;
            bytes: number;
        };
        WrittenDto: {
            to: string;
            subject: string;
            text: string;
        };
        WritePicturesDto: {
            frameIds: string[];
            /** @description name of the output spec */
            spec: string;
            message: components["schemas"]["WrittenDto"];
        };
        OnDrivesDto: {
            id: string;
            name: string;
            /** @description names of the drives that tell of it */
            drives: string[];
            shoots: number;
            /** @description when the newest of it was written, milliseconds since 1970 UTC */
            newest: number;
        };
        RebuildAskedDto: {
            /** @description the archive, by its id */
            archiveId: string;
        };
        CarriedShootDto: {
            id: string;
            title: string;
            /** @description YYYY-MM-DD */
            date: string;
            frames: number;
            /** @description it is here already: what was decided elsewhere comes to it */
            known: boolean;
        };
        CarriedDto: {
            volumeId: string;
            /** @description the drive’s name */
            volume: string;
            /** @description name of the archive that left it there */
            archive: string;
            shoots: components["schemas"]["CarriedShootDto"][];
            /** @description the job that takes them in */
            jobId: string | null;
        };
        BothSidesDto: {
            shootId: string;
            /** @description id of the frame */
            subject: string;
            /** @description of the frame */
            name: string;
            /** @description which mark */
            kind: string;
            here: Record<string, never>;
            there: Record<string, never>;
            /** @enum {string} */
            stands: "here" | "there";
        };
        NamedThereDto: {
            id: string;
            shootId: string;
            /** @description what it is called here */
            here: string;
            /** @description what it was called there */
            name: string;
            folder: string;
            place: string;
        };
        OutThereDto: {
            id: string;
            shootId: string;
            name: string;
        };
        CarryResultDto: {
            shoots: number;
            /** @description that were not here */
            frames: number;
            /** @description that were not known here */
            decisions: number;
            /** @description files that are not where they were */
            missing: number;
            /** @description what was decided on both sides */
            both: components["schemas"]["BothSidesDto"][];
            /** @description frames that were given other names there, and have theirs here still */
            named: components["schemas"]["NamedThereDto"][];
            /** @description frames that were binned or forgotten there, and are here still */
            out: components["schemas"]["OutThereDto"][];
            reason: string | null;
        };
        FollowedDto: {
            jobIds: string[];
            /** @description frames that stay, as another one has their name */
            stay: number;
        };
        SpotDto: {
            /** @description share of the width */
            x: number;
            /** @description share of the height */
            y: number;
        };
        MeasuringDto: {
            /** @description pictures that are measured now */
            pictures: number;
        };
        DuplicateFrameDto: {
            id: string;
            shootId: string;
            /** @description title */
            shoot: string;
            name: string;
            folder: string;
            /** @description corrected wall clock */
            time: string | null;
            body: string | null;
            /** @enum {string} */
            verdict: "keep" | "reject" | "undecided";
            stars: number;
            /** @enum {string|null} */
            label: "A" | "B" | "M" | "S" | "P" | null;
            /** @description original, clip */
            role: string;
            format: string;
            picture: string | null;
            note: string | null;
            /** @description ids of the piles that it is in */
            piles: string[];
            /** @description hand-offs that it was in */
            handedOff: number;
            /** @description deliveries that it was in */
            delivered: number;
            files: number;
            /** @description of all copies of its files, on all drives */
            bytes: number;
            /** @description the others that hold all its files as well */
            within: string[];
        };
        DuplicateDto: {
            /** @description SHA-256 of a file that they share */
            id: string;
            frames: components["schemas"]["DuplicateFrameDto"][];
        };
        DuplicatesDto: {
            groups: components["schemas"]["DuplicateDto"][];
            /** @description what to ask for next; null: that was all */
            next: string | null;
        };
        OneStaysDto: {
            frameId: string;
            /** @description these go into the bin */
            going: string[];
        };
        OneStayedDto: {
            /** @description one for each shoot */
            jobIds: string[];
        };
        VariantFrameDto: {
            id: string;
            shootId: string;
            /** @description title */
            shoot: string;
            name: string;
            folder: string;
            /** @description corrected wall clock */
            time: string | null;
            body: string | null;
            /** @enum {string} */
            verdict: "keep" | "reject" | "undecided";
            stars: number;
            /** @enum {string|null} */
            label: "A" | "B" | "M" | "S" | "P" | null;
            /** @description original, clip */
            role: string;
            format: string;
            picture: string | null;
            note: string | null;
            /** @description ids of the piles that it is in */
            piles: string[];
            /** @description hand-offs that it was in */
            handedOff: number;
            /** @description deliveries that it was in */
            delivered: number;
            files: number;
            /** @description of all copies of its files, on all drives */
            bytes: number;
            /** @description as its file was called */
            original: string;
            /** @description pixels, before orientation */
            width: number | null;
            height: number | null;
            /** @description what was said of its place among takes */
            take: string | null;
        };
        VariantsOfShootDto: {
            shootId: string;
            frameIds: string[];
            /** @description somebody has said that they are one take */
            together: boolean;
        };
        VariantGroupDto: {
            /** @description of the first */
            id: string;
            frames: components["schemas"]["VariantFrameDto"][];
            /** @description those of one shoot, where it has several */
            ofShoots: components["schemas"]["VariantsOfShootDto"][];
        };
        VariantsDto: {
            groups: components["schemas"]["VariantGroupDto"][];
            /** @description pictures that are looked at now: what they show is known later */
            waiting: number;
            /** @description what to ask for next; null: that was all */
            next: string | null;
        };
        OneTakeDto: {
            /** @description the first stands for them */
            frameIds: string[];
        };
        FindDto: {
            /** @description words and facts, see docs/formats.md */
            line: string;
            /** @description the last word is still being typed */
            typing?: boolean;
            /** @description what the studio’s rules reject is in too */
            rejects?: boolean;
            /** @description what lies in the bin is in too */
            bin?: boolean;
            /** @enum {string} */
            heading?: "none" | "shoot" | "arrival" | "year" | "month" | "stars" | "keyword" | "album";
            oldestFirst?: boolean;
            /** @description one frame for each take */
            fold?: boolean;
            /** @description id of a frame, or what a picture is like: such pictures are found, the most alike first */
            like?: string;
            /** @description id of the album that is looked into */
            album?: string;
            /** @description the newest that was seen; what came after it is counted */
            seen?: number;
        };
        FoundPartDto: {
            /** @description where it stands in the line */
            from: number;
            to: number;
            /** @description what it is called by itself */
            words: string;
            /** @enum {string} */
            kind: "fact" | "word";
            /** @description what of it cannot be asked; it hides nothing then */
            problem?: string;
        };
        FoundGroupDto: {
            /** @description null: it is not known */
            key: string | null;
            /** @description where its first stands among all */
            from: number;
            count: number;
            /** @description a shoot’s title, an arrival’s card */
            title: string | null;
            /** @description YYYY-MM-DD */
            date: string | null;
        };
        FoundReadingDto: {
            done: number;
            of: number;
        };
        FoundColumnsDto: {
            count: number;
            /** @description as of a shoot’s frames; also nth among the results, key, shootId, shoot, client, place, binned, hits (of its take, where takes are folded) */
            columns: {
                [key: string]: unknown[];
            };
        };
        FoundDto: {
            /** @description by which pages of it are asked for */
            token: string;
            parts: components["schemas"]["FoundPartDto"][];
            count: number;
            /** @description frames, where one stands for each take; null: each for itself */
            folded: number | null;
            /** @description found too, and left out as the studio’s rules reject them */
            rejects: number;
            /** @description found too, and in the bin */
            binned: number;
            groups: components["schemas"]["FoundGroupDto"][];
            /** @description the line as it was probably meant */
            meant: string | null;
            /** @description frames that came after the one that was seen */
            fresh: number;
            /** @description the newest frame of the archive */
            newest: number;
            /** @description frames known so far; null: all */
            reading: components["schemas"]["FoundReadingDto"] | null;
            /** @description the first frames */
            page: components["schemas"]["FoundColumnsDto"];
        };
        DroppedDto: {
            /** @description a frame, or what the picture is like: as it is asked for */
            like: string;
            /** @description it was made from this frame */
            original: boolean;
            /** @description by which it is held against further frames; null: it is sure */
            token: string | null;
        };
        HoldAgainstDto: {
            /** @description where the frames begin, as the last answer said; none: the first */
            before?: number | null;
        };
        HeldAgainstDto: {
            /** @description the frame that it was made from; null: none of these */
            like: string | null;
            /** @description frames that it was held against */
            looked: number;
            /** @description how many of these nobody has looked at yet: they were passed over */
            unseen: number;
            /** @description frames that there are in all */
            of: number;
            /** @description where the next ones begin; null: these were the last */
            before: number | null;
        };
        FramesADayDto: {
            /** @description those of which there are frames, the first first */
            years: number[];
            /** @description frames by day, MM-DD, by their corrected wall clocks */
            days: {
                [key: string]: number;
            };
        };
        FoundFolderDto: {
            /** @description below each drive */
            path: string;
            name: string;
            /** @description frames in it and below it */
            frames: number;
        };
        FoundFoldersDto: {
            /** @description frames in it and below it */
            frames: number;
            /** @description frames in it, not below it */
            own: number;
            /** @description folders in it, by their names */
            folders: components["schemas"]["FoundFolderDto"][];
        };
        SuggestionDto: {
            /** @enum {string} */
            kind: "word" | "keyword" | "person" | "shoot" | "client" | "place";
            words: string;
            /** @description the part of a line that asks for it */
            line: string;
            /** @description frames that it finds by itself */
            count: number;
        };
        FramesByIdDto: {
            ids: string[];
        };
        FacetCountDto: {
            value: (string | number) | null;
            count: number;
        };
        FoundFacetDto: {
            fact: string;
            counts: components["schemas"]["FacetCountDto"][];
            /** @description values that are not told */
            more: number;
        };
        ClockProposalDto: {
            /** @description the body whose clock seems to be off */
            body: string;
            /** @description the body beside which it is off */
            beside: string;
            /** @description milliseconds to be added to its times as they are now */
            millis: number;
            /** @description its whole correction then, milliseconds beside the camera’s own clock */
            correction: number;
            /** @description moments of both that agree in time and in what they show */
            agree: number;
            /** @description two frames of each such moment, that body’s second */
            pairs: string[][];
        };
        ComparingDto: {
            /** @description pictures that are looked at first */
            pictures: number;
        };
        StandInServerDto: {
            /** @enum {string} */
            id: "webdav" | "sftp" | "smtp";
            name: string;
            /** @description where it listens, on this computer alone */
            port: number;
            user: string;
            password: string;
            /** @description null: as fast as it can */
            bytesPerSecond: number | null;
            /** @description it hangs up after so many more bytes */
            cutAfterBytes: number | null;
            /** @description it is full after so many more bytes */
            bytesUntilFull: number | null;
            /** @description it turns everybody away */
            refuses: boolean;
            /** @description it changes a byte of the next file on the way */
            changesNext: boolean;
        };
        StandInSlotDto: {
            id: string;
            name: string;
            card: string | null;
            /** @description null: as fast as it can */
            bytesPerSecond: number | null;
            /** @description the card is pulled out after so many more bytes */
            pullAfterBytes: number | null;
            /** @description files whose second half cannot be read */
            unreadable: string[];
        };
        StandInDriveDto: {
            /** @description the folder that plays it */
            id: string;
            name: string;
            /** @enum {string} */
            state: "well" | "full" | "unplugged" | "read-only";
            /** @description the drive is full after so many more bytes */
            bytesUntilFull: number | null;
        };
        StandInsDto: {
            servers: components["schemas"]["StandInServerDto"][];
            /** @description cards on the table, by name */
            cards: string[];
            slots: components["schemas"]["StandInSlotDto"][];
            drives: components["schemas"]["StandInDriveDto"][];
        };
        StandInMailDto: {
            /** @description of its file */
            name: string;
            from: string;
            to: string;
            subject: string;
            text: string;
            /** @description names of the files beside it */
            files: string[];
        };
        InsertDto: {
            card: string;
        };
        ChangeSlotDto: {
            bytesPerSecond?: number | null;
            pullAfterBytes?: number | null;
            unreadable?: string[];
        };
        ChangeServerDto: {
            bytesPerSecond?: number | null;
            cutAfterBytes?: number | null;
            bytesUntilFull?: number | null;
            refuses?: boolean;
            changesNext?: boolean;
        };
        ChangeDriveDto: {
            /** @enum {string} */
            state: "well" | "full" | "unplugged" | "read-only";
            bytesUntilFull?: number | null;
        };
        CameraFactDto: {
            name: string;
            value: string;
        };
        FactGroupDto: {
            name: string;
            facts: components["schemas"]["CameraFactDto"][];
        };
        CameraFactsDto: {
            /** @description name of the file that says so */
            file: string;
            /** @description its place below the drive */
            path: string;
            groups: components["schemas"]["FactGroupDto"][];
        };
        TrailLineDto: {
            seq: number;
            at: number;
            /** @enum {string} */
            kind: "renamed" | "moved" | "binned" | "forgotten" | "brought-back" | "deleted" | "taken-off" | "missing" | "damaged" | "repaired" | "changed" | "gone";
            shootId: string;
            /** @description the shoot’s title */
            shoot: string;
            frameId: string | null;
            /** @description name of the drive whose copy it was */
            drive: string | null;
            from: string | null;
            to: string | null;
            reason: string | null;
        };
        TrailPageDto: {
            /** @description the newest first */
            lines: components["schemas"]["TrailLineDto"][];
            /** @description others come after these */
            more: boolean;
        };
    };
    responses: never;
    parameters: never;
    requestBodies: never;
    headers: never;
    pathItems: never;
}
export type $defs = Record<string, never>;
export interface operations {
    Settings_get: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["SettingsDto"];
                };
            };
        };
    };
    Settings_change: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["ChangeSettingsDto"];
            };
        };
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["SettingsDto"];
                };
            };
        };
    };
    Access_session: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["SessionDto"];
                };
            };
        };
    };
    Access_signIn: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["SignInDto"];
            };
        };
        responses: {
            204: {
                headers: {
                    [name: string]: unknown;
                };
                content?: never;
            };
        };
    };
    Access_signOut: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            204: {
                headers: {
                    [name: string]: unknown;
                };
                content?: never;
            };
        };
    };
    Access_setPassword: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["SetPasswordDto"];
            };
        };
        responses: {
            204: {
                headers: {
                    [name: string]: unknown;
                };
                content?: never;
            };
        };
    };
    Machine_health: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["HealthDto"];
                };
            };
        };
    };
    Machine_get: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["MachineDto"];
                };
            };
        };
    };
    Jobs_list: {
        parameters: {
            query?: {
                shoot?: string;
                before?: string;
            };
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["JobDto"][];
                };
            };
        };
    };
    Jobs_report: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["JobReportDto"];
                };
            };
        };
    };
    Jobs_pause: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            204: {
                headers: {
                    [name: string]: unknown;
                };
                content?: never;
            };
        };
    };
    Jobs_resume: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            204: {
                headers: {
                    [name: string]: unknown;
                };
                content?: never;
            };
        };
    };
    Jobs_cancel: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            204: {
                headers: {
                    [name: string]: unknown;
                };
                content?: never;
            };
        };
    };
    Jobs_first: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            204: {
                headers: {
                    [name: string]: unknown;
                };
                content?: never;
            };
        };
    };
    Jobs_retry: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            204: {
                headers: {
                    [name: string]: unknown;
                };
                content?: never;
            };
        };
    };
    Jobs_see: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            204: {
                headers: {
                    [name: string]: unknown;
                };
                content?: never;
            };
        };
    };
    Volumes_list: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["VolumeDto"][];
                };
            };
        };
    };
    Volumes_add: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["AddVolumeDto"];
            };
        };
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["VolumeDto"];
                };
            };
        };
    };
    Volumes_suggestions: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["SuggestedPlaceDto"][];
                };
            };
        };
    };
    Volumes_folders: {
        parameters: {
            query: {
                from: string;
            };
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": string[];
                };
            };
        };
    };
    Volumes_change: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["ChangeVolumeDto"];
            };
        };
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["VolumeDto"];
                };
            };
        };
    };
    Volumes_takeBack: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            204: {
                headers: {
                    [name: string]: unknown;
                };
                content?: never;
            };
        };
    };
    Volumes_eject: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            204: {
                headers: {
                    [name: string]: unknown;
                };
                content?: never;
            };
        };
    };
    Readers_list: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["ReaderDto"][];
                };
            };
        };
    };
    Readers_add: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["AddReaderDto"];
            };
        };
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["ReaderDto"];
                };
            };
        };
    };
    Readers_card: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["CardDto"];
                };
            };
        };
    };
    Readers_listing: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["CardDto"];
                };
            };
        };
    };
    Readers_summary: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["CardSummaryDto"];
                };
            };
        };
    };
    Readers_picture: {
        parameters: {
            query: {
                path: string;
                size: string;
                card: string;
            };
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content?: never;
            };
        };
    };
    Readers_state: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["StateDeviceDto"];
            };
        };
        responses: {
            204: {
                headers: {
                    [name: string]: unknown;
                };
                content?: never;
            };
        };
    };
    Readers_eject: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            204: {
                headers: {
                    [name: string]: unknown;
                };
                content?: never;
            };
        };
    };
    Shoots_list: {
        parameters: {
            query?: {
                /** @description only those that come after this one in the list */
                before?: string;
                /** @description words that must all stand in title, client, place or date */
                find?: string;
                /** @description those whose date is nearest come first, YYYY-MM-DD */
                near?: string;
                /** @description only those with a step still to do, the oldest first */
                open?: boolean;
                /** @description only those of a year, YYYY */
                year?: string;
                /** @description only those of this client; empty: of those that name none */
                client?: string;
                /** @description only those at this place; empty: of those that name none */
                place?: string;
            };
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["ShootDto"][];
                };
            };
        };
    };
    Shoots_totals: {
        parameters: {
            query?: {
                /** @description only those that come after this one in the list */
                before?: string;
                /** @description words that must all stand in title, client, place or date */
                find?: string;
                /** @description those whose date is nearest come first, YYYY-MM-DD */
                near?: string;
                /** @description only those with a step still to do, the oldest first */
                open?: boolean;
                /** @description only those of a year, YYYY */
                year?: string;
                /** @description only those of this client; empty: of those that name none */
                client?: string;
                /** @description only those at this place; empty: of those that name none */
                place?: string;
            };
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["ShootTotalsDto"];
                };
            };
        };
    };
    Shoots_groups: {
        parameters: {
            query: {
                by: "client" | "place";
            };
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["ShootGroupDto"][];
                };
            };
        };
    };
    Shoots_get: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["ShootDto"];
                };
            };
        };
    };
    ShootFacts_change: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["ShootFactsDto"];
            };
        };
        responses: {
            204: {
                headers: {
                    [name: string]: unknown;
                };
                content?: never;
            };
        };
    };
    Shoots_skim: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["SkimmedFrameDto"][];
                };
            };
        };
    };
    Shoots_leads: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["ChooseLeadsDto"];
            };
        };
        responses: {
            204: {
                headers: {
                    [name: string]: unknown;
                };
                content?: never;
            };
        };
    };
    Shoots_folderLeads: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["FolderLeadsDto"];
            };
        };
        responses: {
            204: {
                headers: {
                    [name: string]: unknown;
                };
                content?: never;
            };
        };
    };
    Shoots_clocks: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["CorrectClocksDto"];
            };
        };
        responses: {
            204: {
                headers: {
                    [name: string]: unknown;
                };
                content?: never;
            };
        };
    };
    Shoots_away: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": string[];
                };
            };
        };
    };
    Shoots_frames: {
        parameters: {
            query?: {
                /** @description ids, with commas between: only those of them that are here */
                only?: string[];
            };
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["FrameColumnsDto"];
                };
            };
        };
    };
    History_page: {
        parameters: {
            query?: {
                before?: number;
            };
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["HistoryDto"];
                };
            };
        };
    };
    History_everywhere: {
        parameters: {
            query?: {
                before?: number;
            };
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["HistoryDto"];
                };
            };
        };
    };
    History_decisions: {
        parameters: {
            query?: {
                /** @description number of the last decision of the page before */
                before?: number;
                /** @description number from which on all are asked for */
                from?: number;
                /** @description others: programs and clients */
                whose?: "studio" | "others";
                /** @description of one frame alone */
                frame?: string;
            };
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["DecidedStepsDto"];
                };
            };
        };
    };
    History_turn: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
                group: string;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["TurnDto"];
            };
        };
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["TurnedDto"];
                };
            };
        };
    };
    Marks_apply: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["MarksDto"];
            };
        };
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["AppliedMarksDto"];
                };
            };
        };
    };
    Marks_now: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["FramesAskedDto"];
            };
        };
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["MarksNowDto"];
                };
            };
        };
    };
    Albums_list: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["AlbumDto"][];
                };
            };
        };
    };
    Albums_create: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["NewAlbumDto"];
            };
        };
        responses: {
            201: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["AlbumDto"];
                };
            };
        };
    };
    Albums_held: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["HeldAlbumDto"][];
                };
            };
        };
    };
    Albums_bring: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["BringAlbumsDto"];
            };
        };
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["BroughtAlbumsDto"];
                };
            };
        };
    };
    Albums_all: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": string;
                };
            };
        };
    };
    Albums_text: {
        parameters: {
            query: {
                format: "json" | "names";
            };
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": string;
                    "text/plain": string;
                };
            };
        };
    };
    Albums_change: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["AlbumChangeDto"];
            };
        };
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["AlbumDto"];
                };
            };
        };
    };
    Opening_files: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["LyingFilesDto"];
                };
            };
        };
    };
    Opening_folder: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["ShowFolderDto"];
            };
        };
        responses: {
            204: {
                headers: {
                    [name: string]: unknown;
                };
                content?: never;
            };
        };
    };
    Opening_frames: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["OpenFramesDto"];
            };
        };
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["OpenedDto"];
                };
            };
        };
    };
    Opening_copies: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["OpenCopiesDto"];
            };
        };
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["OpenedDto"];
                };
            };
        };
    };
    Opening_programs: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["ProgramsDto"];
                };
            };
        };
    };
    Opening_setPrograms: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["ProgramsDto"];
            };
        };
        responses: {
            204: {
                headers: {
                    [name: string]: unknown;
                };
                content?: never;
            };
        };
    };
    Archives_list: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["ArchiveHereDto"][];
                };
            };
        };
    };
    Archives_add: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["NewArchiveDto"];
            };
        };
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["ArchiveAddressDto"];
                };
            };
        };
    };
    Archives_open: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["ArchiveFolderDto"];
            };
        };
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["ArchiveAddressDto"];
                };
            };
        };
    };
    Archives_forget: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["ArchiveFolderDto"];
            };
        };
        responses: {
            204: {
                headers: {
                    [name: string]: unknown;
                };
                content?: never;
            };
        };
    };
    Archives_close: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            204: {
                headers: {
                    [name: string]: unknown;
                };
                content?: never;
            };
        };
    };
    Space_taken: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["SpaceDto"];
                };
            };
        };
    };
    Space_counting: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["SpaceCountingDto"];
                };
            };
        };
    };
    Space_old: {
        parameters: {
            query?: {
                /** @description only of shoots of this day or before it, YYYY-MM-DD */
                until?: string;
                /** @description of the shoots that are listed, only those that come after this one */
                after?: string;
            };
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["OldRejectsDto"];
                };
            };
        };
    };
    Space_rejects: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["BinRejectsDto"];
            };
        };
        responses: {
            201: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["BegunRejectsDto"];
                };
            };
        };
    };
    Piles_list: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["PileDto"][];
                };
            };
        };
    };
    Piles_create: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["PileNameDto"];
            };
        };
        responses: {
            201: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["PileDto"];
                };
            };
        };
    };
    Piles_shown: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["PiledFramesDto"];
                };
            };
        };
    };
    Piles_remove: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            204: {
                headers: {
                    [name: string]: unknown;
                };
                content?: never;
            };
        };
    };
    Piles_rename: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["PileNameDto"];
            };
        };
        responses: {
            204: {
                headers: {
                    [name: string]: unknown;
                };
                content?: never;
            };
        };
    };
    Piles_empty: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["EmptiedPileDto"];
                };
            };
        };
    };
    Passes_list: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description the newest first */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["PassDto"][];
                };
            };
        };
    };
    Passes_begin: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["NewPassDto"];
            };
        };
        responses: {
            201: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["WholePassDto"];
                };
            };
        };
    };
    Passes_choices: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["PassChoicesAskedDto"];
            };
        };
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["PassChoicesDto"];
                };
            };
        };
    };
    Passes_get: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["WholePassDto"];
                };
            };
        };
    };
    Passes_progress: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["PassProgressDto"];
            };
        };
        responses: {
            204: {
                headers: {
                    [name: string]: unknown;
                };
                content?: never;
            };
        };
    };
    Passes_decisions: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["DecisionDto"][];
                };
            };
        };
    };
    Passes_compare: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
                other: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["ComparedPassesDto"];
                };
            };
        };
    };
    Passes_undo: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["UndonePassDto"];
                };
            };
        };
    };
    Vocabulary_terms: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["TermColumnsDto"];
                };
            };
        };
    };
    Vocabulary_last: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["LastChangeDto"];
                };
            };
        };
    };
    Vocabulary_rosters: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                shootId: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["ShootRostersDto"];
                };
            };
        };
    };
    Vocabulary_useRosters: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                shootId: string;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["ShootRostersDto"];
            };
        };
        responses: {
            204: {
                headers: {
                    [name: string]: unknown;
                };
                content?: never;
            };
        };
    };
    Vocabulary_unfiled: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["UnfiledWordDto"][];
                };
            };
        };
    };
    Vocabulary_text: {
        parameters: {
            query: {
                format: "indented" | "turtle";
            };
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "text/plain": string;
                    "text/turtle": string;
                };
            };
        };
    };
    Vocabulary_preview: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["TermChangeDto"];
            };
        };
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["FollowingDto"];
                };
            };
        };
    };
    Vocabulary_change: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["TermChangeDto"];
            };
        };
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["VocabularyChangeDto"];
                };
            };
        };
    };
    Vocabulary_undo: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["VocabularyChangeDto"];
                };
            };
        };
    };
    Vocabulary_bring: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["BringTermsDto"];
            };
        };
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["BroughtDto"];
                };
            };
        };
    };
    Sidecars_waiting: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["WaitingSidecarsDto"][];
                };
            };
        };
    };
    Sidecars_tryNow: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            204: {
                headers: {
                    [name: string]: unknown;
                };
                content?: never;
            };
        };
    };
    Intake_start: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["StartIntakeDto"];
            };
        };
        responses: {
            201: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["StartedIntakeDto"];
                };
            };
        };
    };
    Intake_latest: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["LatestArrivalDto"];
                };
            };
        };
    };
    Intake_report: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["IntakeReportDto"];
                };
            };
        };
    };
    Intake_frames: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["ProvenFramesDto"];
                };
            };
        };
    };
    Intake_clear: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["ClearCardDto"];
            };
        };
        responses: {
            201: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["StartedJobDto"];
                };
            };
        };
    };
    Intake_known: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": string[];
                };
            };
        };
    };
    Intake_clearance: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["ClearanceDto"];
                };
            };
        };
    };
    Uploads_allLinks: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["UploadLinkDto"][];
                };
            };
        };
    };
    Uploads_makeLink: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["NewUploadLinkDto"];
            };
        };
        responses: {
            201: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["MadeUploadLinkDto"];
                };
            };
        };
    };
    Uploads_revoke: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            204: {
                headers: {
                    [name: string]: unknown;
                };
                content?: never;
            };
        };
    };
    Uploads_list: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["UploadDto"][];
                };
            };
        };
    };
    Uploads_begin: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["NewUploadDto"];
            };
        };
        responses: {
            201: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["UploadDto"];
                };
            };
        };
    };
    Uploads_one: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["UploadDto"];
                };
            };
        };
    };
    Uploads_whole: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["HereFileDto"][];
                };
            };
        };
    };
    Uploads_finish: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
                file: string;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["WholeFileDto"];
            };
        };
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["NamedFileDto"];
                };
            };
        };
    };
    Uploads_forget: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            204: {
                headers: {
                    [name: string]: unknown;
                };
                content?: never;
            };
        };
    };
    Uploads_close: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["UploadDto"];
                };
            };
        };
    };
    Watch_rules: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["WatchRuleDto"][];
                };
            };
        };
    };
    Watch_add: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["WatchWishDto"];
            };
        };
        responses: {
            201: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["WatchRuleDto"];
                };
            };
        };
    };
    Watch_example: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["ExampleAskedDto"];
            };
        };
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["WatchExampleDto"];
                };
            };
        };
    };
    Watch_change: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["WatchWishDto"];
            };
        };
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["WatchRuleDto"];
                };
            };
        };
    };
    Watch_remove: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            204: {
                headers: {
                    [name: string]: unknown;
                };
                content?: never;
            };
        };
    };
    Watch_again: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            204: {
                headers: {
                    [name: string]: unknown;
                };
                content?: never;
            };
        };
    };
    Adopted_list: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["AdoptedDto"][];
                };
            };
        };
    };
    Adopted_adopt: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["AdoptWishDto"];
            };
        };
        responses: {
            201: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["AdoptedDto"];
                };
            };
        };
    };
    Adopted_example: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["AdoptAskedDto"];
            };
        };
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["AdoptExampleDto"];
                };
            };
        };
    };
    Adopted_change: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["ChangeAdoptedDto"];
            };
        };
        responses: {
            204: {
                headers: {
                    [name: string]: unknown;
                };
                content?: never;
            };
        };
    };
    Adopted_again: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            204: {
                headers: {
                    [name: string]: unknown;
                };
                content?: never;
            };
        };
    };
    Adopted_takeIn: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["TakeInDto"];
            };
        };
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["TakenInDto"];
                };
            };
        };
    };
    Adopted_forget: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["ForgottenDto"];
                };
            };
        };
    };
    Copies_plan: {
        parameters: {
            query?: {
                shootId?: string;
                volumeId?: string;
                /** @description with a shoot: the drive that gets what it does not hold yet */
                to?: string;
                /** @description of these the keepers alone */
                keepers?: boolean;
                /** @description previews of frames whose pictures do not go there, to be looked through elsewhere */
                previews?: boolean;
            };
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["CopyPlanDto"];
                };
            };
        };
    };
    Copies_copyNow: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["CopiesAskedDto"];
            };
        };
        responses: {
            201: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["StartedJobDto"];
                };
            };
        };
    };
    Copies_releasePlan: {
        parameters: {
            query: {
                shootId: string;
                volumeId: string;
                /** @description all but the keepers, which stay there */
                butKeepers?: boolean;
            };
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["ReleasePlanDto"];
                };
            };
        };
    };
    Copies_release: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["ReleaseAskedDto"];
            };
        };
        responses: {
            201: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["StartedJobDto"];
                };
            };
        };
    };
    Copies_kept: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["KeptOnDto"][];
                };
            };
        };
    };
    Copies_verify: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["CopiesAskedDto"];
            };
        };
        responses: {
            201: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["StartedJobDto"];
                };
            };
        };
    };
    Moves_plan: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["MoveRequestDto"];
            };
        };
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["MovePlanDto"];
                };
            };
        };
    };
    Moves_start: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["MoveRequestDto"];
            };
        };
        responses: {
            201: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["StartedMoveDto"];
                };
            };
        };
    };
    Moves_undo: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                jobId: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            201: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["StartedMoveDto"];
                };
            };
        };
    };
    Bin_list: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["BinDto"];
                };
            };
        };
    };
    Bin_start: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["BinRequestDto"];
            };
        };
        responses: {
            201: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["StartedBinDto"];
                };
            };
        };
    };
    Bin_plan: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["BinRequestDto"];
            };
        };
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["BinPlanDto"];
                };
            };
        };
    };
    Bin_back: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["BringBackDto"];
            };
        };
        responses: {
            201: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["StartedBinDto"];
                };
            };
        };
    };
    Bin_undo: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            201: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["StartedBinDto"];
                };
            };
        };
    };
    Bin_empty: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["EmptyBinDto"];
            };
        };
        responses: {
            201: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["StartedBinDto"];
                };
            };
        };
    };
    Bin_frames: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["PlacedFrameDto"][];
                };
            };
        };
    };
    Handoff_plan: {
        parameters: {
            query: {
                volumeId: string;
                /** @description in the folder of the shoot; missing: the one for selects */
                folder?: string;
            };
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["HandoffPlanDto"];
                };
            };
        };
    };
    Handoff_list: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["HandoffDto"][];
                };
            };
        };
    };
    Handoff_start: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["StartHandoffDto"];
            };
        };
        responses: {
            201: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["StartedJobDto"];
                };
            };
        };
    };
    Handoff_heard: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["HeardFromEditingDto"];
                };
            };
        };
    };
    Handoff_takeBack: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["HandoffPlaceDto"];
            };
        };
        responses: {
            201: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["StartedJobDto"];
                };
            };
        };
    };
    Returns_list: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["ReturnDto"][];
                };
            };
        };
    };
    Returns_look: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            204: {
                headers: {
                    [name: string]: unknown;
                };
                content?: never;
            };
        };
    };
    Returns_folders: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["ReturnFoldersDto"];
                };
            };
        };
    };
    Returns_setFolders: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["ReturnFoldersDto"];
            };
        };
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["ReturnFoldersDto"];
                };
            };
        };
    };
    Returns_answer: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                assetId: string;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["ReturnAnswerDto"];
            };
        };
        responses: {
            204: {
                headers: {
                    [name: string]: unknown;
                };
                content?: never;
            };
        };
    };
    Returns_editsOf: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                frameId: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["EditsOfFrameDto"];
                };
            };
        };
    };
    Delivery_keepWatermark: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            201: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["WatermarkPictureDto"];
                };
            };
        };
    };
    Delivery_watermark: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                picture: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content?: never;
            };
        };
    };
    Delivery_plan: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["StartDeliveryDto"];
            };
        };
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["DeliveryPlanDto"];
                };
            };
        };
    };
    Delivery_sample: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["SampleAskedDto"];
            };
        };
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["SamplesDto"];
                };
            };
        };
    };
    Delivery_list: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["DeliveryDto"][];
                };
            };
        };
    };
    Delivery_start: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["StartDeliveryDto"];
            };
        };
        responses: {
            201: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["StartedJobDto"];
                };
            };
        };
    };
    Delivery_changes: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                job: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["DeliveryChangesDto"];
                };
            };
        };
    };
    Delivery_again: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                job: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            201: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["StartedJobDto"];
                };
            };
        };
    };
    Delivery_sheet: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                job: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content?: never;
            };
        };
    };
    Delivery_zip: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                job: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content?: never;
            };
        };
    };
    Ledger_page: {
        parameters: {
            query?: {
                client?: string;
                shootId?: string;
                frameId?: string;
                /** @description YYYY */
                year?: string;
                /** @description as the page before said */
                before?: string;
            };
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["LedgerPageDto"];
                };
            };
        };
    };
    Ledger_csv: {
        parameters: {
            query?: {
                client?: string;
                shootId?: string;
                frameId?: string;
                /** @description YYYY */
                year?: string;
            };
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content?: never;
            };
        };
    };
    Ledger_years: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": string[];
                };
            };
        };
    };
    Ledger_months: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                year: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["LedgerMonthDto"][];
                };
            };
        };
    };
    Ledger_wentOut: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["WentOutDto"][];
                };
            };
        };
    };
    Ledger_enter: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["PostingDto"];
            };
        };
        responses: {
            201: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["EnteredDto"];
                };
            };
        };
    };
    Ledger_takeOut: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            204: {
                headers: {
                    [name: string]: unknown;
                };
                content?: never;
            };
        };
    };
    Destinations_all: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["DestinationDto"][];
                };
            };
        };
    };
    Destinations_add: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["KeepDestinationDto"];
            };
        };
        responses: {
            201: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["DestinationDto"];
                };
            };
        };
    };
    Destinations_change: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["KeepDestinationDto"];
            };
        };
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["DestinationDto"];
                };
            };
        };
    };
    Destinations_forget: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            204: {
                headers: {
                    [name: string]: unknown;
                };
                content?: never;
            };
        };
    };
    Destinations_check: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["CheckedDestinationDto"];
                };
            };
        };
    };
    Destinations_send: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                job: string;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["SendDto"];
            };
        };
        responses: {
            201: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["SendingStartedDto"];
                };
            };
        };
    };
    Destinations_sent: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["SentSetDto"][];
                };
            };
        };
    };
    Destinations_confirm: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            204: {
                headers: {
                    [name: string]: unknown;
                };
                content?: never;
            };
        };
    };
    Gallery_place: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["GalleryPlaceDto"];
                };
            };
        };
    };
    Gallery_list: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["GalleryDto"][];
                };
            };
        };
    };
    Gallery_make: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["MakeGalleryDto"];
            };
        };
        responses: {
            201: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["GalleryMadeDto"];
                };
            };
        };
    };
    Gallery_choosing: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["ChoosingGalleryDto"][];
                };
            };
        };
    };
    Gallery_remarks: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["ClientRemarkDto"][];
                };
            };
        };
    };
    Gallery_change: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["ChangeGalleryDto"];
            };
        };
        responses: {
            204: {
                headers: {
                    [name: string]: unknown;
                };
                content?: never;
            };
        };
    };
    Gallery_again: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            201: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["StartedJobDto"];
                };
            };
        };
    };
    Gallery_close: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            204: {
                headers: {
                    [name: string]: unknown;
                };
                content?: never;
            };
        };
    };
    Gallery_reopen: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            201: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["StartedJobDto"];
                };
            };
        };
    };
    Gallery_addLink: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["AddGalleryLinkDto"];
            };
        };
        responses: {
            204: {
                headers: {
                    [name: string]: unknown;
                };
                content?: never;
            };
        };
    };
    Gallery_revoke: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            204: {
                headers: {
                    [name: string]: unknown;
                };
                content?: never;
            };
        };
    };
    Messages_account: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["MailAccountDto"];
                };
            };
        };
    };
    Messages_keep: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["MailAccountWishDto"];
            };
        };
        responses: {
            204: {
                headers: {
                    [name: string]: unknown;
                };
                content?: never;
            };
        };
    };
    Messages_forget: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            204: {
                headers: {
                    [name: string]: unknown;
                };
                content?: never;
            };
        };
    };
    Messages_check: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            204: {
                headers: {
                    [name: string]: unknown;
                };
                content?: never;
            };
        };
    };
    Messages_list: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["MessageDto"][];
                };
            };
        };
    };
    Messages_ofGallery: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["WriteToGalleryDto"];
            };
        };
        responses: {
            204: {
                headers: {
                    [name: string]: unknown;
                };
                content?: never;
            };
        };
    };
    Messages_made: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["MakePicturesDto"];
            };
        };
        responses: {
            201: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["MadePictureDto"][];
                };
            };
        };
    };
    Messages_withPictures: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["WritePicturesDto"];
            };
        };
        responses: {
            204: {
                headers: {
                    [name: string]: unknown;
                };
                content?: never;
            };
        };
    };
    Rebuild_archives: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["OnDrivesDto"][];
                };
            };
        };
    };
    Rebuild_begin: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["RebuildAskedDto"];
            };
        };
        responses: {
            201: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["StartedJobDto"];
                };
            };
        };
    };
    Carried_all: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["CarriedDto"][];
                };
            };
        };
    };
    Carried_result: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                jobId: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["CarryResultDto"];
                };
            };
        };
    };
    Carried_takeNames: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                jobId: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            201: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["FollowedDto"];
                };
            };
        };
    };
    Carried_binToo: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                jobId: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            201: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["FollowedDto"];
                };
            };
        };
    };
    Carried_begin: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                volumeId: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            201: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["StartedJobDto"];
                };
            };
        };
    };
    Carried_leave: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                volumeId: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            204: {
                headers: {
                    [name: string]: unknown;
                };
                content?: never;
            };
        };
    };
    Features_sharpest: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                picture: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["SpotDto"];
                };
            };
        };
    };
    Features_measure: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["MeasuringDto"];
                };
            };
        };
    };
    Duplicates_page: {
        parameters: {
            query?: {
                /** @description where the last page ended */
                after?: string;
            };
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["DuplicatesDto"];
                };
            };
        };
    };
    Duplicates_stays: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["OneStaysDto"];
            };
        };
        responses: {
            201: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["OneStayedDto"];
                };
            };
        };
    };
    Duplicates_variants: {
        parameters: {
            query?: {
                /** @description where the last page ended */
                after?: string;
            };
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["VariantsDto"];
                };
            };
        };
    };
    Duplicates_together: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["OneTakeDto"];
            };
        };
        responses: {
            204: {
                headers: {
                    [name: string]: unknown;
                };
                content?: never;
            };
        };
    };
    Find_find: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["FindDto"];
            };
        };
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["FoundDto"];
                };
            };
        };
    };
    Find_picture: {
        parameters: {
            query?: {
                /** @description what its file is called */
                name?: string;
            };
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["DroppedDto"];
                };
            };
        };
    };
    Find_further: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                token: string;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["HoldAgainstDto"];
            };
        };
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["HeldAgainstDto"];
                };
            };
        };
    };
    Find_days: {
        parameters: {
            query: {
                year: number;
            };
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["FramesADayDto"];
                };
            };
        };
    };
    Find_folders: {
        parameters: {
            query?: {
                /** @description below each drive; empty: all */
                path?: string;
            };
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["FoundFoldersDto"];
                };
            };
        };
    };
    Find_suggestions: {
        parameters: {
            query: {
                line: string;
            };
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["SuggestionDto"][];
                };
            };
        };
    };
    Find_byIds: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["FramesByIdDto"];
            };
        };
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["FoundColumnsDto"];
                };
            };
        };
    };
    Find_away: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["FramesByIdDto"];
            };
        };
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": string[];
                };
            };
        };
    };
    Find_frames: {
        parameters: {
            query: {
                from: number;
                count: number;
            };
            header?: never;
            path: {
                token: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["FoundColumnsDto"];
                };
            };
        };
    };
    Find_ids: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                token: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": string[];
                };
            };
        };
    };
    Find_facets: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                token: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["FoundFacetDto"][];
                };
            };
        };
    };
    Takes_proposals: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["ClockProposalDto"][];
                };
            };
        };
    };
    Takes_compare: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["ComparingDto"];
                };
            };
        };
    };
    StandIns_all: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["StandInsDto"];
                };
            };
        };
    };
    StandIns_mailbox: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["StandInMailDto"][];
                };
            };
        };
    };
    StandIns_insert: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["InsertDto"];
            };
        };
        responses: {
            204: {
                headers: {
                    [name: string]: unknown;
                };
                content?: never;
            };
        };
    };
    StandIns_pull: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            204: {
                headers: {
                    [name: string]: unknown;
                };
                content?: never;
            };
        };
    };
    StandIns_changeSlot: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["ChangeSlotDto"];
            };
        };
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["StandInsDto"];
                };
            };
        };
    };
    StandIns_changeServer: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["ChangeServerDto"];
            };
        };
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["StandInsDto"];
                };
            };
        };
    };
    StandIns_changeDrive: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["ChangeDriveDto"];
            };
        };
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["StandInsDto"];
                };
            };
        };
    };
    Previews_get: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                picture: string;
                size: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content?: never;
            };
        };
    };
    Frames_camera: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["CameraFactsDto"][];
                };
            };
        };
    };
    Trail_read: {
        parameters: {
            query?: {
                /** @description only what became of files of this shoot */
                shoot?: string;
                /** @description only what became of this frame */
                frame?: string;
                /** @description only of this day, YYYY-MM-DD, as days are counted where the server stands */
                day?: string;
                /** @description words that must all stand in its paths, its shoot’s title or its reason */
                find?: string;
                /** @description only what happened before this line */
                before?: number;
            };
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["TrailPageDto"];
                };
            };
        };
    };
}
