export interface paths {
    "/api/capacity": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** Hours of each machine by week, and what ordered jobs take of them. */
        get: operations["capacity_capacity_capacity_get"];
        /** The shop's hours: shifts, overtime, days that it is closed. */
        put: operations["capacity_change_hours_capacity_put"];
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/customers": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: operations["quotes_customers_customers_get"];
        put?: never;
        post: operations["quotes_add_customer_customers_post"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/customers/{customer_id}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        /** What is agreed with a customer: quotes that were issued stay as they are. */
        put: operations["quotes_change_customer_customers__int_customer_id__put"];
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/floor/{plan_id}/photos/{hash}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** A photo that was taken at the machine. */
        get: operations["floor_photo_floor__int_plan_id__photos__hash__get"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/floor/{plan_id}/{setup}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** A load's steps at the machine, and what was ticked of them. */
        get: operations["floor_at_machine_floor__int_plan_id___setup__get"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/floor/{plan_id}/{setup}/events": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** What a device noted, each under a token of its own: one that was sent before is not taken again. */
        post: operations["floor_take_events_floor__int_plan_id___setup__events_post"];
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
        /** A page of the jobs, from what was kept with their plans: nothing is computed for it. */
        get: operations["jobs_list_jobs_get"];
        put?: never;
        /** Reads the file, makes the quick plan and keeps both. A file that cannot be used is refused with the reason. */
        post: operations["jobs_add_job_post"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/jobs/pictures/{file}/{solid}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** A part's small drawing: it never changes under its address. */
        get: operations["jobs_picture_pictures__file___int_solid__get"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/jobs/{job_id}": {
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
        patch: operations["jobs_edit_job__int_job_id__patch"];
        trace?: never;
    };
    "/api/library": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: operations["library_get_library_get"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/plans/{plan_id}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** The plan as it stands. With the ETag of an earlier answer in If-None-Match: 304 where nothing is another. */
        get: operations["plans_get_plan__int_plan_id__get"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/plans/{plan_id}/alternatives": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** All plans of the job, the one that it is made by first; nothing is computed for it. */
        get: operations["alternatives_alternatives__int_plan_id__alternatives_get"];
        put?: never;
        /** Forks a plan; the new one has a journal of its own, and this one stays as it is. */
        post: operations["alternatives_add_alternative__int_plan_id__alternatives_post"];
        delete?: never;
        options?: never;
        head?: never;
        /** Its name, and whether it is in sight. */
        patch: operations["alternatives_edit_alternative__int_plan_id__alternatives_patch"];
        trace?: never;
    };
    "/api/plans/{plan_id}/alternatives/choice": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** The job is made by this plan from now on; the others stay. */
        post: operations["alternatives_choose__int_plan_id__alternatives_choice_post"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/plans/{plan_id}/alternatives/compared": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** Plans of the job beside one another, and the quantities at which one overtakes another. */
        get: operations["alternatives_side_by_side__int_plan_id__alternatives_compared_get"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/plans/{plan_id}/alternatives/grid": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** Machine × stock × pieces a cycle × order, each a whole plan with its own ledger; changes nothing. */
        get: operations["alternatives_combinations__int_plan_id__alternatives_grid_get"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/plans/{plan_id}/balance": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** Each load's lanes over the time of its cycle, who waits for whom, and what one after the other would take. */
        get: operations["balance_balance__int_plan_id__balance_get"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/plans/{plan_id}/balance/both-ends": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** Both ends in one load of each lathe with a counter spindle, tried; changes nothing. */
        get: operations["balance_ends__int_plan_id__balance_both_ends_get"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/plans/{plan_id}/balance/cell": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** The plan's machines beside one another, tended by people: the pace, who sets it, and what a piece then costs. */
        get: operations["balance_cell__int_plan_id__balance_cell_get"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/plans/{plan_id}/balance/{load}/best": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** The least cycle over the carriages, searched for some seconds; changes nothing. */
        get: operations["balance_best__int_plan_id__balance__load__best_get"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/plans/{plan_id}/balance/{load}/gains": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** Single steps that shorten a load's cycle, each tried; changes nothing. */
        get: operations["balance_gains__int_plan_id__balance__load__gains_get"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/plans/{plan_id}/begin-again": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** Divide, hold and make the part by the rules again, on a machine or on a lathe and a mill. */
        post: operations["plans_begin_again__int_plan_id__begin_again_post"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/plans/{plan_id}/beginnings": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** The part begun anew by the rules on each machine of the shop, the best first; changes nothing. */
        get: operations["plans_begun_anew__int_plan_id__beginnings_get"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/plans/{plan_id}/bought-as": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** The plan from every other form of stock that the list has, however it lies, beside how it is; changes nothing. */
        get: operations["plans_bought_as__int_plan_id__bought_as_get"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/plans/{plan_id}/changes": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        post: operations["plans_change_plan__int_plan_id__changes_post"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/plans/{plan_id}/division": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** The least division of the part around what is locked and asked for; changes nothing. */
        get: operations["plans_division__int_plan_id__division_get"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/plans/{plan_id}/engraving": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** Engrave the lines of a drawing on a flat side. */
        post: operations["plans_engrave__int_plan_id__engraving_post"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/plans/{plan_id}/floor": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** Estimate beside actual of a plan, and its loads' pages. */
        get: operations["floor_plan_floor_plans__int_plan_id__floor_get"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/plans/{plan_id}/journal": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** The last lines of the plan's journal, or those before one; also of a plan that cannot be computed. */
        get: operations["plans_journal__int_plan_id__journal_get"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/plans/{plan_id}/last-used": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** Values that other plans have for the same kind of operation, tool and material, where this one has none. */
        get: operations["pace_habits__int_plan_id__last_used_get"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/plans/{plan_id}/layout": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** Where the pieces of each load stand, on which offsets, and how many more would go on. */
        get: operations["plans_layout__int_plan_id__layout_get"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/plans/{plan_id}/layout/{load}/counts": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** The price and the seconds of each number of pieces that go on, each computed; changes nothing. */
        get: operations["plans_counts__int_plan_id__layout__load__counts_get"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/plans/{plan_id}/layout/{load}/scopes": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** Where each operation of a load runs, and what it saves to run it once over each row; changes nothing. */
        get: operations["plans_scopes__int_plan_id__layout__load__scopes_get"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/plans/{plan_id}/lead-time": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** When a lot of a plan is ready behind all that is ordered, and what it takes to be ready by a day. */
        get: operations["capacity_lead_time_plans__int_plan_id__lead_time_get"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/plans/{plan_id}/machines": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** The plan on each machine of the shop, computed again, beside how it is now; changes nothing. */
        get: operations["plans_machines__int_plan_id__machines_get"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/plans/{plan_id}/measure": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** Distance, angle, radius or depth between one or two picks; changes nothing. */
        post: operations["plans_measure__int_plan_id__measure_post"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/plans/{plan_id}/mesh": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: operations["plans_mesh__int_plan_id__mesh_get"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/plans/{plan_id}/operations/{operation}/figures": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** Each number of an operation with the formula that it comes from: long, and looked at one by one. */
        get: operations["pace_figures__int_plan_id__operations__operation__figures_get"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/plans/{plan_id}/operations/{operation}/pace": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** One operation at shares of its usual speed and feed, beside how it is now; changes nothing. */
        get: operations["pace_pace__int_plan_id__operations__operation__pace_get"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/plans/{plan_id}/order/{load}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** A load's cycle step by step, and what plain orders of it would come to. */
        get: operations["order_cycle__int_plan_id__order__load__get"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/plans/{plan_id}/order/{load}/again/{piece}/{operation}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** What it would take not to call a step's tool a second time, each way tried; changes nothing. */
        get: operations["order_again__int_plan_id__order__load__again__piece___operation__get"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/plans/{plan_id}/order/{load}/best": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** The order that costs least, searched for some seconds; changes nothing. */
        get: operations["order_best__int_plan_id__order__load__best_get"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/plans/{plan_id}/papers/change-note.pdf": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** For the customer: what changed on the part and what that does to the price. */
        get: operations["revision_note__int_plan_id__papers_change_note_pdf_get"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/plans/{plan_id}/papers/{paper}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** The setup sheet and the lists, issued from the plan as it stands, once its stock is followed. */
        get: operations["plans_papers__int_plan_id__papers__paper__get"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/plans/{plan_id}/play": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** All operations in the order in which they run, with what holds each setup's stock. */
        get: operations["play_play__int_plan_id__play_get"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/plans/{plan_id}/play/{operation}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** Where the tool of an operation is at every moment, and its shape. */
        get: operations["play_tool_way__int_plan_id__play__operation__get"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/plans/{plan_id}/program": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** Each setup's program, run on the simulated machine beside the ledger. */
        get: operations["program_program__int_plan_id__program_get"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/plans/{plan_id}/program/machine/{machine}/text": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** The programs of all setups that a machine makes, as one file, once the plan's stock is followed. */
        get: operations["program_machine_text__int_plan_id__program_machine__machine__text_get"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/plans/{plan_id}/program/package": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** Programs, offsets, lists, sheet and manifest in one zip, once the plan's stock is followed. */
        get: operations["program_package__int_plan_id__program_package_get"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/plans/{plan_id}/program/send": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** Send the package to the machines' stand-in; it answers with the run times of so many cycles, which are kept. */
        post: operations["program_send__int_plan_id__program_send_post"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/plans/{plan_id}/program/{setup}/attached": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** Time a setup, or one operation of it, by a program from elsewhere. */
        post: operations["program_attach__int_plan_id__program__setup__attached_post"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/plans/{plan_id}/program/{setup}/part": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** A part of a load's program on the simulated machine: the plan stays as it is. */
        get: operations["program_part__int_plan_id__program__setup__part_get"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/plans/{plan_id}/program/{setup}/part/text": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** That program as a file, once the plan's stock is followed. */
        get: operations["program_part_text__int_plan_id__program__setup__part_text_get"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/plans/{plan_id}/program/{setup}/text": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** The program of a setup as a file, once the plan's stock is followed. */
        get: operations["program_text__int_plan_id__program__setup__text_get"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/plans/{plan_id}/program/{setup}/trial/{which}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** A setup's program followed through the stock: what it takes off, and what it runs into. Takes seconds. */
        get: operations["program_trial__int_plan_id__program__setup__trial__which__get"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/plans/{plan_id}/redo": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        post: operations["plans_redo__int_plan_id__redo_post"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/plans/{plan_id}/revision-price": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** The plan as it last made the revision before, beside the plan as it stands: seconds, money, programs. */
        get: operations["revision_revision_price__int_plan_id__revision_price_get"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/plans/{plan_id}/revisions/{revision}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** A revision of the part beside the one before it: what became of each feature and face. */
        get: operations["plans_compare__int_plan_id__revisions__revision__get"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/plans/{plan_id}/setups/{setup}/drawing": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** The part's lines in a setup's own coordinates. */
        get: operations["plans_drawing__int_plan_id__setups__setup__drawing_get"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/plans/{plan_id}/setups/{setup}/grips": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** All that the shop could hold a setup with, the best first; changes nothing. */
        get: operations["plans_grips__int_plan_id__setups__setup__grips_get"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/plans/{plan_id}/stock": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** What each operation takes off, what stays on the part and what is cut into it. Takes seconds at first. */
        get: operations["stock_stock__int_plan_id__stock_get"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/plans/{plan_id}/stock-model": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** Bring in the model of near-net stock and plan from it. */
        post: operations["plans_take_stock_model__int_plan_id__stock_model_post"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/plans/{plan_id}/stock/{count}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** The stock after the first `count` operations. */
        get: operations["stock_stock_after__int_plan_id__stock__int_count__get"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/plans/{plan_id}/stock/{count}/height": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** How much stock stands there along a direction; changes nothing. */
        post: operations["stock_height__int_plan_id__stock__int_count__height_post"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/plans/{plan_id}/tool-use": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** What a piece and a batch take of each tool, and what each of its operations asks of it. */
        get: operations["pace_tool_use__int_plan_id__tool_use_get"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/plans/{plan_id}/undo": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        post: operations["plans_undo__int_plan_id__undo_post"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/plans/{plan_id}/version": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        post: operations["plans_go_to__int_plan_id__version_post"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/plans/{plan_id}/worth": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** The ten entries that save most at their limits, each tried out; changes nothing. */
        get: operations["pace_worth__int_plan_id__worth_get"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/quotes": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** All quotes, each in its last version, and what became of them by customer and material. */
        get: operations["quotes_quotes_quotes_get"];
        put?: never;
        /** A draft; its number is its own from now on. */
        post: operations["quotes_begin_quotes_post"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/quotes/files/{file}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** All quotes as CSV or XLSX. */
        get: operations["quotes_quote_list_quotes_files__file__get"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/quotes/{quote_id}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** As it was issued; a draft as it would be now. */
        get: operations["quotes_quote_quotes__int_quote_id__get"];
        /** All of what a draft asks for. */
        put: operations["quotes_edit_quotes__int_quote_id__put"];
        post?: never;
        /** A draft that is not issued. */
        delete: operations["quotes_drop_quotes__int_quote_id__delete"];
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/quotes/{quote_id}/again": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** A draft of its next version. */
        post: operations["quotes_again_quotes__int_quote_id__again_post"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/quotes/{quote_id}/decision": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** Won, lost, or open again. */
        post: operations["quotes_decide_quotes__int_quote_id__decision_post"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/quotes/{quote_id}/issue": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** Freeze it as it was seen, with its PDF; the version before is replaced. */
        post: operations["quotes_issue_quotes__int_quote_id__issue_post"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/quotes/{quote_id}/pdf": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** As it was issued, to the byte; of a draft as it would be. */
        get: operations["quotes_paper_quotes__int_quote_id__pdf_get"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/readings/job": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** Begin to read a new job's part; the job and its quick plan are there when the reading is done. */
        post: operations["readings_read_job_job_post"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/readings/revision": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** Begin to read the next revision of a job's part. No plan changes by that. */
        post: operations["readings_read_revision_revision_post"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/readings/{reading}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: operations["readings_get_reading__reading__get"];
        put?: never;
        post?: never;
        delete: operations["readings_cancel_reading__reading__delete"];
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/readings/{reading}/size": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** Go on with a part of an odd size: the planner means it. */
        post: operations["readings_mean_size__reading__size_post"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/readings/{reading}/solid": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        post: operations["readings_choose_solid__reading__solid_post"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/shop/calculator": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** Speed, feed, power, torque, force, bending and life of a tool in a material on a machine. */
        get: operations["tools_calculator_calculator_get"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/shop/chains": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** The rules by which features are made. */
        get: operations["tools_chains_chains_get"];
        /** All rules anew, in their order. */
        put: operations["tools_change_chains_chains_put"];
        /** Bring the rules in from a file. */
        post: operations["tools_bring_chains_chains_post"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/shop/cutting": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** Bring cutting data in from CSV. */
        post: operations["tools_bring_cutting_cutting_post"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/shop/factors": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** What was measured of each machine and category, and which of it estimates are taken times. */
        get: operations["floor_factors_shop_factors_get"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/shop/factors/{machine}/{category}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        /** Take coming estimates times what was measured, as it stands now; every plan is computed with it. */
        put: operations["floor_use_factor_shop_factors__machine___category__put"];
        post?: never;
        /** Take coming estimates by the machine's data again. */
        delete: operations["floor_drop_factor_shop_factors__machine___category__delete"];
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/shop/files/{file}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** tools.csv, tools.json or cutting.csv: the whole library, to be kept or changed and brought back. */
        get: operations["tools_file_files__file__get"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/shop/magazines/{machine}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        /** Which tools stand set up in a machine. */
        put: operations["tools_change_magazine_magazines__machine__put"];
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/shop/own/{what}/{key}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        post?: never;
        /** Take a row of the shop's own out: back to what ships, or gone. */
        delete: operations["tools_drop_own_own__what___path_key__delete"];
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/shop/terms": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** What the shop says of itself on quotes, and how it rounds. */
        get: operations["quotes_terms_shop_terms_get"];
        put: operations["quotes_change_terms_shop_terms_put"];
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/shop/tools": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** All tools, holders and cutting data of the shop. */
        get: operations["tools_shelf_tools_get"];
        /** Change one tool, or bring one in. */
        put: operations["tools_change_tool_tools_put"];
        /** Bring tools in from CSV or JSON: all of them, or none where one will not do. */
        post: operations["tools_bring_tools_tools_post"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/works/{work}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: operations["works_get_work__work__get"];
        put?: never;
        post?: never;
        delete: operations["works_cancel_work__work__delete"];
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
}
export type webhooks = Record<string, never>;
export interface components {
    schemas: {
        /** AbleView */
        AbleView: {
            /** Id */
            id: string;
            /** Name */
            name: string;
        };
        /**
         * AcceptRest
         * @description Stock up to an amount may stay on a feature, and on others `also`; 0 takes that back.
         */
        AcceptRest: {
            /**
             * Also
             * @default []
             */
            also?: string[];
            /** Amount */
            amount: number;
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            change: "accept-rest";
            /** Feature */
            feature: string;
        };
        /**
         * AddBody
         * @description A lug, tab or boss in its usual size in the middle of a flat side.
         */
        AddBody: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            change: "add-body";
            /**
             * Kind
             * @enum {string}
             */
            kind: "lug" | "tab" | "boss";
            /** On */
            on: string;
        };
        /**
         * AddHandWork
         * @description `during`: beside the machine while it runs; else the machine stands.
         */
        AddHandWork: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            change: "add-hand-work";
            /**
             * During
             * @default false
             */
            during?: boolean;
            /**
             * Kind
             * @enum {string}
             */
            kind: "deburr" | "inspect" | "turn over" | "re-clamp";
            /** Setup */
            setup: string;
        };
        /** AddSetup */
        AddSetup: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            change: "add-setup";
            /**
             * Up
             * @enum {string}
             */
            up: "X-" | "X+" | "Y-" | "Y+" | "Z-" | "Z+";
        };
        /**
         * AfterView
         * @description What has to come before, and why.
         */
        AfterView: {
            /** By Hand */
            by_hand: boolean;
            /** Name */
            name: string;
            /** Operation */
            operation: string;
            /** Reason */
            reason: string;
        };
        /** AllowanceView */
        AllowanceView: {
            /** Side */
            side: string;
            /** Value */
            value: number;
        };
        /** AlternativeEdit */
        AlternativeEdit: {
            /**
             * Name
             * @default null
             */
            name?: string | null;
            /**
             * Put Away
             * @default null
             */
            put_away?: boolean | null;
        };
        /**
         * AlternativeView
         * @description A plan of the job; figures are those kept of its last version, None where there are none yet.
         */
        AlternativeView: {
            /**
             * Chosen
             * @description the job is made by it
             */
            chosen: boolean;
            /** Chosen At */
            chosen_at: string | null;
            /**
             * Chosen By
             * @description empty where it is the job's from the first
             */
            chosen_by: string;
            /** Cycle */
            cycle: number | null;
            /** Each */
            each: string | null;
            /** Errors */
            errors: number;
            /** Followed */
            followed: boolean;
            /**
             * Fresh
             * @description whether the figures are from what stands now
             */
            fresh: boolean;
            /** Id */
            id: number;
            /**
             * Last
             * Format: date-time
             */
            last: string;
            /**
             * Lines
             * @description of its journal
             */
            lines: number;
            /** Name */
            name: string;
            /**
             * Origin
             * @description what it was forked from; empty for the job's first
             */
            origin: string;
            /** Put Away */
            put_away: boolean;
            /**
             * Quantity
             * @description that the price is for
             */
            quantity: number | null;
            /** Trouble */
            trouble: string;
            /** Warnings */
            warnings: number;
        };
        /** AlternativesView */
        AlternativesView: {
            /** Plans */
            plans: components["schemas"]["AlternativeView"][];
        };
        /** AskedLineBody */
        AskedLineBody: {
            /**
             * Note
             * @default
             */
            note?: string;
            /** Plan */
            plan: number;
            /** Quantities */
            quantities: number[];
        };
        /**
         * AtOneSpeed
         * @description Operations that turn at the same speed, rpm, so that they can run at the same time on one spindle.
         */
        AtOneSpeed: {
            /** N */
            n: number;
            /** Operations */
            operations: string[];
        };
        /**
         * AttachProgram
         * @description Times a setup, or one operation of it, by a program that was brought in; one that was there before goes.
         */
        AttachProgram: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            change: "attach-program";
            /** File */
            file: string;
            /** Key */
            key: string;
            /**
             * Operation
             * @default
             */
            operation?: string;
            /** Setup */
            setup: string;
        };
        /**
         * AttachedView
         * @description A program from elsewhere that a setup, or one operation of it, is timed by.
         */
        AttachedView: {
            /** File */
            file: string;
            /** Lines */
            lines: number;
            /** Operation */
            operation: string;
            /** Seconds */
            seconds: number;
        };
        /** AxisView */
        AxisView: {
            /** Direction */
            direction: [
                number,
                number,
                number
            ];
            /** Point */
            point: [
                number,
                number,
                number
            ];
        };
        /** BalanceView */
        BalanceView: {
            /** Loads */
            loads: components["schemas"]["BalancedLoadView"][];
        };
        /**
         * BalancedLoadView
         * @description Of a load whose machine has several carriages: each a lane, with what is decided on it. With one carriage there
         *     is nothing to decide; it has a lane where pieces go from spindle to spindle.
         */
        BalancedLoadView: {
            /**
             * Able
             * @description machines of its kind on which operations run at the same time
             */
            able: components["schemas"]["AbleView"][];
            /** At Once */
            at_once: boolean;
            /**
             * Both Sides
             * @description operations whose passes go two at a time, or could
             */
            both_sides: components["schemas"]["BothSidesView"][];
            /** Bound */
            bound: number;
            /** Cycle */
            cycle: number;
            drum: components["schemas"]["DrumView"] | null;
            /** Groups */
            groups: components["schemas"]["SharedView"][];
            /** @description where a counter spindle takes the pieces over */
            handover: components["schemas"]["HandoverView"] | null;
            /** Lanes */
            lanes: components["schemas"]["LaneView"][];
            /** Load */
            load: string;
            /** Machine */
            machine: string;
            /** Marks */
            marks: components["schemas"]["MarkView"][];
            /** One By One */
            one_by_one: number;
            /** Pieces */
            pieces: number;
            /**
             * Saved
             * @description money a piece, against one after the other
             */
            saved: number;
            /** Setups */
            setups: string[];
            /**
             * Split
             * @description operations that are made in parts
             */
            split: components["schemas"]["SplitView"][];
            /** Words */
            words: string;
        };
        /**
         * BarView
         * @description Pieces of an advance of the bar, one behind the other; lengths along the spindle.
         */
        BarView: {
            /** Advance */
            advance: number;
            /**
             * Back
             * @description left on each behind
             */
            back: number;
            /** Bar */
            bar: number;
            /**
             * Bars
             * @description that each quantity of the plan takes
             */
            bars: number[];
            /**
             * Behind
             * @description from the last cut-off to the collet
             */
            behind: number;
            /**
             * Cut Off
             * @description the blade's width
             */
            cut_off: number;
            /**
             * Feed
             * @description seconds that an advance takes
             */
            feed: number;
            /**
             * Free
             * @description from there to the blade
             */
            free: number | null;
            /**
             * Front
             * @description that the first is faced by
             */
            front: number;
            /**
             * Fronts
             * @description Z of each piece's front
             */
            fronts: number[];
            /**
             * Gripped
             * @description of the piece's front by a counter spindle, where one takes it over
             */
            gripped: number | null;
            /**
             * Length
             * @description of a piece
             */
            length: number;
            /**
             * Most
             * @description that go on an advance
             */
            most: number;
            /** Per Advance */
            per_advance: number;
            /**
             * Pieces
             * @description of a bar
             */
            pieces: number;
            /**
             * Reach
             * @description Z of the end of the last cut-off, from the first piece's front
             */
            reach: number;
            /** Remnant */
            remnant: number;
            /**
             * Stands Out
             * @description of the collet, before the first cut
             */
            stands_out: number;
            /** Thick */
            thick: number;
            /**
             * Why
             * @description what keeps one more out
             */
            why: string;
        };
        /** BatchView */
        BatchView: {
            /** Changes */
            changes: number;
            /** Quantity */
            quantity: number;
            /** Used Up */
            used_up: number;
        };
        /** BeginAgainBody */
        BeginAgainBody: {
            /** Machines */
            machines: string[];
        };
        /**
         * BeginningsView
         * @description The best first: what leaves least to solve, of these the cheapest at the first quantity.
         */
        BeginningsView: {
            /** Begun */
            begun: components["schemas"]["BegunView"][];
            /** Refused */
            refused: components["schemas"]["RefusedView"][];
            /** Untried */
            untried: string[];
        };
        /**
         * BegunView
         * @description The part begun anew by the rules on a machine, or on a lathe and the mill of what it leaves; `left` are the
         *     titles of what somebody has to solve.
         */
        BegunView: {
            /** Bought */
            bought: string;
            /** Cures */
            cures: string[];
            /** Current */
            current: boolean;
            /** Cycle */
            cycle: number;
            /** Each */
            each: string;
            /** Left */
            left: string[];
            /** Machines */
            machines: string[];
            /** Name */
            name: string;
            /** Setup Hours */
            setup_hours: string;
            /** Setups */
            setups: number;
        };
        /** BesideView */
        BesideView: {
            /** Actual */
            actual: number;
            /** Count */
            count: number;
            /** Over */
            over: number;
            /** Planned */
            planned: number;
            /** What */
            what: string;
        };
        /** BestView */
        BestView: {
            /**
             * Bound
             * @description no order costs less: seconds of changes, or the counts by rank
             */
            bound: number[];
            found: components["schemas"]["OrderedView"];
            /**
             * Goal
             * @description counts by rank; empty where seconds are
             */
            goal: ("tool" | "index" | "piece")[];
            now: components["schemas"]["OrderedView"];
            /** Proven */
            proven: boolean;
            /** Sequence */
            sequence: [
                string,
                string
            ][];
            /** Words */
            words: string;
        };
        /**
         * BodyView
         * @description A body of the plan, or what fills a hole for now (`kind` plug); triangles as in MeshView.
         */
        BodyView: {
            /** Height */
            height: number;
            /** Id */
            id: string;
            /** Kind */
            kind: string;
            /** Length */
            length: number;
            /** On */
            on: string;
            /** Removal */
            removal: string;
            /** Triangles */
            triangles: number[];
            /** U */
            u: number;
            /** V */
            v: number;
            /** Vertices */
            vertices: number[];
            /** Width */
            width: number;
            /** Words */
            words: string;
        };
        /** BookView */
        BookView: {
            /** Good */
            good: number;
            /**
             * Loading
             * @description seconds of it in the mean
             */
            loading: number | null;
            /**
             * Loads
             * @description times that loading was timed
             */
            loads: number;
            /** Notes */
            notes: components["schemas"]["FloorNoteView"][];
            /** Scrap */
            scrap: components["schemas"]["ScrapView"][];
            /**
             * Setting Up
             * @description seconds of all steps, once each was done
             */
            setting_up: number | null;
        };
        /** BothEndsOffersView */
        BothEndsOffersView: {
            /** Offers */
            offers: components["schemas"]["BothEndsView"][];
            /** Quantities */
            quantities: number[];
        };
        /**
         * BothEndsView
         * @description Both ends of the part in one load of a lathe whose counter spindle takes pieces over. Seconds a piece and money
         *     each at the plan's quantities, after less before.
         */
        BothEndsView: {
            change: components["schemas"]["ChangeBody"];
            /** Each */
            each: number[];
            /**
             * Errors
             * @description what would be left to solve
             */
            errors: string[];
            /** Machine */
            machine: string;
            /** Name */
            name: string;
            /** Refused */
            refused: string;
            /** Seconds */
            seconds: number;
        };
        /**
         * BothSidesView
         * @description An operation that two carriages could make together, one on either side of the axis, or do.
         */
        BothSidesView: {
            /** Name */
            name: string;
            /** On */
            on: boolean;
            /** Operation */
            operation: string;
        };
        /**
         * BoughtAsView
         * @description The plan from other stock; `stays` are sides that stay as they are bought. Without a price it is `only_more` to
         *     buy and to cut, or there was no time to compute it.
         */
        BoughtAsView: {
            /** Along */
            along: ("X" | "Y" | "Z") | null;
            /** Each */
            each: string | null;
            /** Each Change */
            each_change: string | null;
            /**
             * Form
             * @enum {string}
             */
            form: "block" | "plate" | "rectangular bar" | "round bar" | "hexagonal bar" | "near-net";
            /** Kg */
            kg: number;
            /** Kg More */
            kg_more: number;
            /** Left */
            left: string[];
            /** Named */
            named: string;
            /** Only More */
            only_more: boolean;
            /**
             * Sizing
             * @enum {string}
             */
            sizing: "over the part" | "next size up" | "fixed";
            /** Stay */
            stay: boolean;
            /** Stays */
            stays: string;
        };
        /**
         * BoughtView
         * @description What was evaluated first, the least first. None of a plan whose stock is delivered.
         */
        BoughtView: {
            /** Each */
            each: string;
            /** Kg */
            kg: number;
            /** Now */
            now: string;
            /** Others */
            others: components["schemas"]["BoughtAsView"][];
        };
        /** BoxView */
        BoxView: {
            /** Height */
            height: number;
            /** Ring */
            ring: [
                number,
                number
            ][];
            /** Round */
            round: boolean;
            /** What */
            what: string;
            /** Width */
            width: number;
            /** X */
            x: number;
            /** Y */
            y: number;
        };
        /** BreakView */
        BreakView: {
            /** Cost */
            cost: string;
            /** Each */
            each: string;
            /** Lot */
            lot: string;
            /**
             * Margin
             * @description share of the lot that is not its cost
             */
            margin: number;
            /** Quantity */
            quantity: number;
            /** Raised */
            raised: boolean;
            /**
             * Ready
             * Format: date
             */
            ready: string;
            /**
             * Weeks
             * @description from the day of the quote, begun ones counted
             */
            weeks: number;
        };
        /** BroughtView */
        BroughtView: {
            /** Brought */
            brought: string[];
            /** Notes */
            notes: string[];
        };
        /**
         * ByHandView
         * @description A precedence that was made, or overruled, by hand.
         */
        ByHandView: {
            /** First */
            first: string;
            /** Note */
            note: string;
            /** Then */
            then: string;
            /** Words */
            words: string;
        };
        /** CalculatedView */
        CalculatedView: {
            /** Ae */
            ae: number;
            /** Ap */
            ap: number;
            /** Figures */
            figures: components["schemas"]["FigureView"][];
            /** Fz */
            fz: number;
            /**
             * Life
             * @description minutes in cut
             */
            life: number;
            load: components["schemas"]["LoadView"];
            /** N */
            n: number;
            /** Notes */
            notes: string[];
            /**
             * Removal
             * @description cm³/min
             */
            removal: number;
            /** Source */
            source: string;
            /** Vc */
            vc: number;
            /** Vf */
            vf: number;
        };
        /**
         * CallView
         * @description A subprogram, and the line that it begins at.
         */
        CallView: {
            /** Line */
            line: number;
            /** Name */
            name: string;
            /** Number */
            number: number;
            /** Operation */
            operation: string;
        };
        /** CapacityView */
        CapacityView: {
            hours: components["schemas"]["HoursBody"];
            /** Lots */
            lots: components["schemas"]["LotView"][];
            /** Machines */
            machines: components["schemas"]["MachineLoadView"][];
            /**
             * Today
             * Format: date
             */
            today: string;
        };
        /** CategoryView */
        CategoryView: {
            /** Apart */
            apart: number;
            /** Category */
            category: string;
            /** Ledger */
            ledger: number;
            /** Machine */
            machine: number;
        };
        /** CellDecidedView */
        CellDecidedView: {
            /** Availability */
            availability: number;
            /** Operators */
            operators: number;
            /** Room */
            room: number | null;
            /** Shift Hours */
            shift_hours: number;
            /** Tends */
            tends: string[][];
            /** Walk */
            walk: number;
            /** Wanted */
            wanted: number | null;
        };
        /** CellQuantityView */
        CellQuantityView: {
            /**
             * Apart
             * @description the same with each load run by itself
             */
            apart: number;
            /**
             * Cell
             * @description money each of machines and people with setting up, as a cell
             */
            cell: number;
            /** Hours */
            hours: number;
            /**
             * Price
             * @description each, with the cell's run in place of that of its loads
             */
            price: string;
            /**
             * Price Apart
             * @description each, as the plan has it
             */
            price_apart: string;
            /** Quantity */
            quantity: number;
            /** Shifts */
            shifts: number;
        };
        /**
         * CellRowView
         * @description A machine, a bench or a person of a cell over one period, with the shares of it by what is done.
         */
        CellRowView: {
            /** Id */
            id: string;
            /** Name */
            name: string;
            /** Person */
            person: boolean;
            /** Shares */
            shares: {
                [key: string]: number;
            };
            /** Spans */
            spans: components["schemas"]["SpanView"][];
        };
        /**
         * CellRunView
         * @description Over one period, in seconds.
         */
        CellRunView: {
            /** Bound */
            bound: number;
            /** Pace */
            pace: number;
            /** Per Shift */
            per_shift: number;
            /** Period */
            period: number;
            /** Pieces */
            pieces: number;
            /** Quantities */
            quantities: components["schemas"]["CellQuantityView"][];
            /** Room */
            room: number;
            /** Rows */
            rows: components["schemas"]["CellRowView"][];
            /** Stations */
            stations: components["schemas"]["StationView"][];
            /** Takt */
            takt: number | null;
            /** Words */
            words: string;
        };
        /**
         * CellView
         * @description `why` says why the loads are no cell.
         */
        CellView: {
            decided: components["schemas"]["CellDecidedView"];
            run: components["schemas"]["CellRunView"] | null;
            /** Why */
            why: string;
        };
        /**
         * ChainRuleView
         * @description A rule as it stands in the file of rules, and its conditions in words.
         */
        ChainRuleView: {
            /** Conditions */
            conditions: string[];
            /** Row */
            row: {
                [key: string]: unknown;
            };
        };
        /** ChainsBody */
        ChainsBody: {
            /** Rules */
            rules: {
                [key: string]: unknown;
            }[];
        };
        /** ChainsView */
        ChainsView: {
            /**
             * Facts
             * @description by the sort of feature: conditions that are true or false
             */
            facts: {
                [key: string]: string[];
            };
            /** Materials */
            materials: {
                [key: string]: string;
            };
            /**
             * Numbers
             * @description by the sort of feature: conditions with a number, each with its words; {} stands for it
             */
            numbers: {
                [key: string]: {
                    [key: string]: string;
                };
            };
            /**
             * Own
             * @description whether the shop changed what ships
             */
            own: boolean;
            /** Rules */
            rules: components["schemas"]["ChainRuleView"][];
            /**
             * Steps
             * @description by the sort of feature, in their order
             */
            steps: {
                [key: string]: string[];
            };
        };
        /**
         * ChangeBody
         * @description One change; `change` names its kind.
         */
        ChangeBody: components["schemas"]["SetMaterial"] | components["schemas"]["SetQuantities"] | components["schemas"]["SetAllowance"] | components["schemas"]["SetStock"] | components["schemas"]["SetStockSize"] | components["schemas"]["TakeStockModel"] | components["schemas"]["ShiftStockModel"] | components["schemas"]["AttachProgram"] | components["schemas"]["DetachProgram"] | components["schemas"]["SetDialect"] | components["schemas"]["SetIssue"] | components["schemas"]["AddHandWork"] | components["schemas"]["EditHandWork"] | components["schemas"]["RemoveHandWork"] | components["schemas"]["Engrave"] | components["schemas"]["EditEngraving"] | components["schemas"]["RemoveEngraving"] | components["schemas"]["SetProbe"] | components["schemas"]["SetCutOff"] | components["schemas"]["SetThread"] | components["schemas"]["ForgetThread"] | components["schemas"]["EditOperation"] | components["schemas"]["SameForAlike"] | components["schemas"]["MakeAs"] | components["schemas"]["TakeValues"] | components["schemas"]["SetDepth"] | components["schemas"]["LeaveOut"] | components["schemas"]["TakeIn"] | components["schemas"]["MoveFeature"] | components["schemas"]["SetUp"] | components["schemas"]["SetTurn"] | components["schemas"]["LayOnFace"] | components["schemas"]["SetFixture"] | components["schemas"]["SetHold"] | components["schemas"]["SetCarriers"] | components["schemas"]["SetIndexed"] | components["schemas"]["SetGrip"] | components["schemas"]["SetForce"] | components["schemas"]["SetSpacer"] | components["schemas"]["SetZero"] | components["schemas"]["ZeroByRule"] | components["schemas"]["SetMachine"] | components["schemas"]["MoveToMachine"] | components["schemas"]["SetArrangement"] | components["schemas"]["SetOffsets"] | components["schemas"]["SetPieceOrder"] | components["schemas"]["SkipPieces"] | components["schemas"]["SetScope"] | components["schemas"]["SetCarriage"] | components["schemas"]["ShareSpeed"] | components["schemas"]["OwnSpeed"] | components["schemas"]["RunBeside"] | components["schemas"]["OneAfterOther"] | components["schemas"]["FromBothSides"] | components["schemas"]["SpreadOut"] | components["schemas"]["SplitOperation"] | components["schemas"]["SetCell"] | components["schemas"]["LoadApart"] | components["schemas"]["LoadBeside"] | components["schemas"]["LoadTogether"] | components["schemas"]["HandOver"] | components["schemas"]["PullBar"] | components["schemas"]["MoveSteps"] | components["schemas"]["ComeBefore"] | components["schemas"]["NotBefore"] | components["schemas"]["Overrule"] | components["schemas"]["TakeOut"] | components["schemas"]["LockSteps"] | components["schemas"]["NameSection"] | components["schemas"]["SetSequence"] | components["schemas"]["SortSteps"] | components["schemas"]["AddSetup"] | components["schemas"]["RemoveSetup"] | components["schemas"]["DivideAgain"] | components["schemas"]["StartEmpty"] | components["schemas"]["ParkFeatures"] | components["schemas"]["LockSetup"] | components["schemas"]["SplitSetup"] | components["schemas"]["MergeSetups"] | components["schemas"]["KeepTogether"] | components["schemas"]["ComeFirst"] | components["schemas"]["DropWish"] | components["schemas"]["AcceptRest"] | components["schemas"]["SetOrder"] | components["schemas"]["GroupByTool"] | components["schemas"]["OrderByRule"] | components["schemas"]["SetRate"] | components["schemas"]["SetSetupCost"] | components["schemas"]["SetBuy"] | components["schemas"]["SayTolerance"] | components["schemas"]["SayFinish"] | components["schemas"]["SayNote"] | components["schemas"]["SayThread"] | components["schemas"]["TakeRevision"] | components["schemas"]["SetOneOff"] | components["schemas"]["PairFeatures"] | components["schemas"]["PairByRule"] | components["schemas"]["ConfirmFeatures"] | components["schemas"]["DropDecisions"] | components["schemas"]["AddBody"] | components["schemas"]["SizeBody"] | components["schemas"]["RemoveBody"] | components["schemas"]["DropBody"];
        /** ChangedView */
        ChangedView: {
            /** After */
            after: number;
            /** Before */
            before: number;
            /** Label */
            label: string;
            /** Unit */
            unit: string;
        };
        /** CheaperView */
        CheaperView: {
            /** Quantity */
            quantity: number;
            /** Than */
            than: number;
        };
        /**
         * CheapestView
         * @description Where an entry costs least: seconds and money a piece gains there.
         */
        CheapestView: {
            change: components["schemas"]["ChangeBody"];
            /** Each */
            each: string;
            /** Feed */
            feed: number;
            /** Saving */
            saving: number;
            /** Speed */
            speed: number;
        };
        /** ClosedBody */
        ClosedBody: {
            /**
             * First
             * Format: date
             */
            first: string;
            /**
             * Last
             * Format: date
             */
            last: string;
            /**
             * Why
             * @default
             */
            why?: string;
        };
        /**
         * CombinationView
         * @description A whole plan: machine and stock name its row, pieces and order its column.
         */
        CombinationView: {
            /**
             * Changes
             * @description that lead to it from the plan as it stands
             */
            changes: {
                [key: string]: unknown;
            }[];
            /**
             * Counts
             * @description pieces a cycle of each load
             */
            counts: number[];
            /** Cycle */
            cycle: number;
            /**
             * Each
             * @description at each of the plan's quantities
             */
            each: string[];
            /**
             * Left
             * @description titles of what is left to solve
             */
            left: string[];
            /** Name */
            name: string;
            /** On */
            on: string;
            /** Order */
            order: string;
            /** Pieces */
            pieces: string;
            /** Setup Hours */
            setup_hours: number;
            /** Stock */
            stock: string;
        };
        /**
         * ComeBefore
         * @description Of two operations of a setup the first comes before the second at each piece; `note` says why.
         */
        ComeBefore: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            change: "come-before";
            /** First */
            first: string;
            /** Load */
            load: string;
            /**
             * Note
             * @default
             */
            note?: string;
            /** Then */
            then: string;
        };
        /** ComeFirst */
        ComeFirst: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            change: "come-first";
            /** First */
            first: string;
            /** Then */
            then: string;
        };
        /**
         * CompareView
         * @description Two revisions: pairs of features, and what became of each face of either model.
         */
        CompareView: {
            /** After */
            after: string;
            /** After Faces */
            after_faces: string[];
            /** After Features */
            after_features: {
                [key: string]: number[];
            };
            /** Before */
            before: string;
            /** Before Faces */
            before_faces: string[];
            /** Before Features */
            before_features: {
                [key: string]: number[];
            };
            /** Pairs */
            pairs: components["schemas"]["FeaturePairView"][];
        };
        /**
         * ConfirmFeatures
         * @description The decisions on these features hold in this revision too.
         */
        ConfirmFeatures: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            change: "confirm-features";
            /** Features */
            features: string[];
        };
        /**
         * CoordinatesView
         * @description A feature's middle, top and bottom from the zero.
         */
        CoordinatesView: {
            /** Bottom */
            bottom: number;
            /** Feature */
            feature: string;
            /** Title */
            title: string;
            /** Top */
            top: number;
            /** X */
            x: number;
            /** Y */
            y: number;
        };
        /** CountView */
        CountView: {
            /** Between */
            between: number;
            /** Columns */
            columns: number;
            /** Cutting */
            cutting: number;
            /**
             * Each
             * @description by quantity of the plan
             */
            each: string[];
            /** Loading */
            loading: number;
            /** Pieces */
            pieces: number;
            /** Rows */
            rows: number;
            /**
             * Seconds
             * @description of each piece, with its loading
             */
            seconds: number;
            /** Stopped */
            stopped: string;
        };
        /** CountsOfOrder */
        CountsOfOrder: {
            /**
             * Changes
             * @description seconds of all changes, by what each costs on this machine
             */
            changes: number;
            /**
             * Cycle
             * @description as the machine runs it
             */
            cycle: number;
            /**
             * Degrees
             * @description that are indexed
             */
            degrees: number;
            /**
             * Each
             * @description what the cycle's seconds cost a piece, machine and the share of an operator
             */
            each: number;
            /** Index */
            index: number;
            /** Piece */
            piece: number;
            /** Tool */
            tool: number;
        };
        /** CountsView */
        CountsView: {
            /** Knee */
            knee: number | null;
            /** Load */
            load: string;
            /** Points */
            points: components["schemas"]["CountView"][];
            /** Quantities */
            quantities: number[];
            /** Why */
            why: [
                string,
                string
            ];
        };
        /** Created */
        Created: {
            /** Plan Id */
            plan_id: number;
        };
        /** CureView */
        CureView: {
            change: components["schemas"]["ChangeBody"];
            /** Label */
            label: string;
        };
        /** CurvePoint */
        CurvePoint: {
            /** Each */
            each: string;
            /** Quantity */
            quantity: number;
        };
        /** CurvePointOf */
        CurvePointOf: {
            /**
             * Each
             * @description of each plan
             */
            each: string[];
            /** Quantity */
            quantity: number;
        };
        /** CustomerBody */
        CustomerBody: {
            /**
             * Address
             * @default []
             */
            address?: string[];
            /**
             * Contact
             * @default
             */
            contact?: string;
            /**
             * Currency
             * @default
             */
            currency?: string;
            /**
             * Delivery
             * @default
             */
            delivery?: string;
            /**
             * Discount
             * @description A decimal number
             * @default 0
             */
            discount?: string;
            /** Name */
            name: string;
            /**
             * Note
             * @default
             */
            note?: string;
            /**
             * Payment
             * @default
             */
            payment?: string;
        };
        /** CustomerView */
        CustomerView: {
            /** Address */
            address: string[];
            /** Contact */
            contact: string;
            /** Currency */
            currency: string;
            /** Delivery */
            delivery: string;
            /** Discount */
            discount: string;
            /** Id */
            id: number;
            /** Name */
            name: string;
            /** Note */
            note: string;
            /** Payment */
            payment: string;
        };
        /** CustomersView */
        CustomersView: {
            /** Customers */
            customers: components["schemas"]["CustomerView"][];
        };
        /** CuttingRowView */
        CuttingRowView: {
            /** Own */
            own: boolean;
            /** Row */
            row: {
                [key: string]: string;
            };
        };
        /** CycleView */
        CycleView: {
            /** Angles */
            angles: number[];
            /** Before */
            before: components["schemas"]["ByHandView"][];
            /**
             * By
             * @enum {string}
             */
            by: "tool" | "operation" | "piece" | "hand";
            /**
             * Fixed
             * @description why nobody chooses the order of the pieces; empty where they can
             */
            fixed: string;
            /** Graphs */
            graphs: components["schemas"]["GraphView"][];
            /** Load */
            load: string;
            /**
             * Orders
             * @description the present one first
             */
            orders: components["schemas"]["OrderedView"][];
            /** Out */
            out: components["schemas"]["OutView"][];
            /** Overruled */
            overruled: components["schemas"]["ByHandView"][];
            /** Pieces */
            pieces: number;
            /** Setups */
            setups: string[];
            /** Steps */
            steps: components["schemas"]["StepView"][];
            times: components["schemas"]["TimesView"];
        };
        /**
         * CyclesView
         * @description So many cycles one after the other, each with these setups.
         */
        CyclesView: {
            /** Count */
            count: number;
            /** Setups */
            setups: string[];
        };
        /**
         * Decision
         * @description What became of it: won with what was ordered, lost with a reason, or open again.
         */
        Decision: {
            /**
             * Ordered
             * @default []
             */
            ordered?: components["schemas"]["OrderedBody"][];
            /**
             * Reason
             * @default
             */
            reason?: string;
            /**
             * State
             * @enum {string}
             */
            state: "won" | "lost" | "open";
            /**
             * Words
             * @default
             */
            words?: string;
        };
        /**
         * DepthView
         * @description Down from where the operation begins, mm; `words` say what was decided, empty where the rule stands.
         */
        DepthView: {
            /**
             * Beyond
             * @description a face that was pointed at
             */
            beyond: number;
            /** Rule */
            rule: number;
            /** Value */
            value: number;
            /** Words */
            words: string;
        };
        /**
         * DetachProgram
         * @description Back to the plan's own motion.
         */
        DetachProgram: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            change: "detach-program";
            /**
             * Operation
             * @default
             */
            operation?: string;
            /** Setup */
            setup: string;
        };
        /** DialectView */
        DialectView: {
            /** Id */
            id: string;
            /** Name */
            name: string;
        };
        /** DivideAgain */
        DivideAgain: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            change: "divide-again";
        };
        /**
         * DivisionView
         * @description What the solver makes of the part: `least` setups; `sides` that would do, where they are fewer than now.
         */
        DivisionView: {
            /** Before */
            before: string[][];
            /** Clashes */
            clashes: string[];
            /** Least */
            least: number;
            /** Lost */
            lost: components["schemas"]["LostView"][];
            /** Proven */
            proven: boolean;
            /** Sides */
            sides: string[];
            /** Together */
            together: string[][];
        };
        /** DrawingView */
        DrawingView: {
            /** Hidden */
            hidden: [
                number,
                number
            ][][];
            /** Visible */
            visible: [
                number,
                number
            ][][];
        };
        /** DropBody */
        DropBody: {
            /** Body */
            body: string;
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            change: "drop-body";
        };
        /**
         * DropDecisions
         * @description Forgets what was decided by hand for these features.
         */
        DropDecisions: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            change: "drop-decisions";
            /** Features */
            features: string[];
        };
        /**
         * DropWish
         * @description Takes back what was asked of the division for exactly these features.
         */
        DropWish: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            change: "drop-wish";
            /** Features */
            features: string[];
        };
        /**
         * DrumView
         * @description A drum of spindles: every index finishes a piece, so the slowest position sets the pace.
         */
        DrumView: {
            /**
             * An Hour
             * @description pieces, of the share of the hours that the shop's machines run
             */
            an_hour: number;
            /** Availability */
            availability: number;
            /**
             * Feed
             * @description of the bar, in the last position
             */
            feed: number;
            /** Index */
            index: number;
            /**
             * One Feed
             * @description one drive moves both slides of a position: one feed a turn there
             */
            one_feed: boolean;
            /**
             * Positions
             * @description seconds of each until it could index; the index is in them
             */
            positions: number[];
        };
        /**
         * EdgeView
         * @description Indexes of nodes: the first comes before the second.
         */
        EdgeView: {
            /** By Hand */
            by_hand: boolean;
            /** First */
            first: number;
            /** Reason */
            reason: string;
            /** Then */
            then: number;
        };
        /**
         * EditEngraving
         * @description Only what is given changes.
         */
        EditEngraving: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            change: "edit-engraving";
            /**
             * Depth
             * @default null
             */
            depth?: number | null;
            /** Engraving */
            engraving: string;
            /**
             * Face
             * @default null
             */
            face?: string | null;
            /**
             * Height
             * @default null
             */
            height?: number | null;
            /**
             * Text
             * @default null
             */
            text?: string | null;
            /**
             * Turn
             * @default null
             */
            turn?: number | null;
            /**
             * X
             * @default null
             */
            x?: number | null;
            /**
             * Y
             * @default null
             */
            y?: number | null;
        };
        /** EditHandWork */
        EditHandWork: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            change: "edit-hand-work";
            /**
             * During
             * @default null
             */
            during?: boolean | null;
            /**
             * Seconds
             * @default null
             */
            seconds?: number | string | null;
            /** Setup */
            setup: string;
            /** Work */
            work: string;
        };
        /**
         * EditOperation
         * @description Set some values of an operation by hand, or clear some back to the rule.
         */
        EditOperation: {
            /**
             * Ae
             * @default null
             */
            ae?: number | null;
            /**
             * Allowance
             * @default null
             */
            allowance?: number | null;
            /**
             * Ap
             * @default null
             */
            ap?: number | null;
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            change: "edit-operation";
            /**
             * Clear
             * @default []
             */
            clear?: ("tool" | "speed" | "feed" | "n" | "vf" | "ap" | "ae" | "passes" | "allowance" | "strategy" | "direction")[];
            /**
             * Direction
             * @default null
             */
            direction?: ("climb" | "conventional") | null;
            /**
             * Feed
             * @default null
             */
            feed?: number | null;
            /**
             * N
             * @default null
             */
            n?: number | null;
            /** Operation */
            operation: string;
            /**
             * Passes
             * @default null
             */
            passes?: number | null;
            /**
             * Speed
             * @default null
             */
            speed?: number | null;
            /**
             * Strategy
             * @default null
             */
            strategy?: ("in steps" | "constant engagement" | "in a helix" | "in rows" | "in levels") | null;
            /**
             * Tool
             * @default null
             */
            tool?: string | null;
            /**
             * Vf
             * @default null
             */
            vf?: number | null;
        };
        /** EffectView */
        EffectView: {
            /** Cycle */
            cycle: number;
            /** Each */
            each: string;
            /** Findings Gone */
            findings_gone: number;
            /** Findings New */
            findings_new: number;
            /** Per Piece */
            per_piece: number;
            /** Setup Hours */
            setup_hours: string;
            /** Words */
            words: string;
        };
        /**
         * Engrave
         * @description Put letters, or the lines of a drawing, on a flat side of the part.
         */
        Engrave: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            change: "engrave";
            /**
             * Depth
             * @default 0.2
             */
            depth?: number;
            /** Face */
            face: string;
            /**
             * Height
             * @default 4
             */
            height?: number;
            /**
             * Lines
             * @default []
             */
            lines?: [
                number,
                number
            ][][];
            /**
             * Name
             * @default
             */
            name?: string;
            /**
             * Text
             * @default
             */
            text?: string;
        };
        /** EngravingForm */
        EngravingForm: {
            /**
             * Face
             * @description The flat side that they are engraved on
             */
            face: string;
            /**
             * File
             * Format: binary
             * @description A DXF drawing; all its lines are engraved
             */
            file: File;
        };
        /**
         * EngravingView
         * @description Letters, or drawn lines, on a flat side; mm and degrees, from the middle of the face.
         */
        EngravingView: {
            /** Depth */
            depth: number;
            /** Face */
            face: string;
            /** Height */
            height: number;
            /** Id */
            id: string;
            /**
             * Lines
             * @description as they lie in the setup, from the middle of the face
             */
            lines: [
                number,
                number
            ][][];
            /**
             * Rings
             * @description of the face and of what is cut out of it, from its middle
             */
            rings: [
                number,
                number
            ][][];
            /** Text */
            text: string;
            /** Turn */
            turn: number;
            /** Words */
            words: string;
            /** X */
            x: number;
            /** Y */
            y: number;
        };
        /** EntryView */
        EntryView: {
            /** Ae */
            ae: number;
            /** After */
            after: components["schemas"]["AfterView"][];
            /**
             * Alike
             * @description other features of the same sort and size
             */
            alike: string[];
            /** Allowance */
            allowance: number;
            /**
             * Another
             * @description id of one more tool of the kind; empty where there is none to have
             */
            another: string;
            /** Ap */
            ap: number;
            /**
             * By Pitch
             * @description its feed follows from a thread's pitch
             */
            by_pitch: boolean;
            /**
             * Called
             * @description what the machine calls its tool by; on a lathe the station in the turret
             */
            called: number;
            /**
             * Carriage
             * @description that makes it, where the machine has several
             */
            carriage: string;
            /** Changes Tool */
            changes_tool: boolean;
            /**
             * Constant Vc
             * @description m/min that the spindle keeps: n grows as the diameter falls
             */
            constant_vc: number | null;
            /** Depth */
            depth: number;
            /**
             * Direction
             * @description along a wall: climb or conventional
             */
            direction: ("climb" | "conventional") | null;
            /** Edited */
            edited: ("tool" | "speed" | "feed" | "n" | "vf" | "ap" | "ae" | "passes" | "allowance" | "strategy" | "direction")[];
            /** Features */
            features: string[];
            /**
             * Feed
             * @description times the feed per tooth that the rule gives
             */
            feed: number;
            /** Fz */
            fz: number;
            /** Id */
            id: string;
            /** Kind */
            kind: string;
            /** @description of those whose depth can be set by hand */
            measured: components["schemas"]["DepthView"] | null;
            /** N */
            n: number;
            /** Name */
            name: string;
            /** Passes */
            passes: number;
            /** Power */
            power: number;
            /** Power Limit */
            power_limit: number;
            /**
             * Rule
             * @description of the shop's, by which its features are made; empty where none is needed
             */
            rule: string;
            /**
             * Rules
             * @description that could make them
             */
            rules: components["schemas"]["RuleChoice"][];
            /** Seconds */
            seconds: components["schemas"]["SecondsView"][];
            /**
             * Settable
             * @description values that can be set by hand
             */
            settable: ("tool" | "speed" | "feed" | "n" | "vf" | "ap" | "ae" | "passes" | "allowance" | "strategy" | "direction")[];
            /**
             * Speed
             * @description times the vc of the library's data
             */
            speed: number;
            /** Strategies */
            strategies: components["schemas"]["StrategyView"][];
            /**
             * Strategy
             * @description of roughing: in steps, at constant engagement or in a helix
             */
            strategy: ("in steps" | "constant engagement" | "in a helix" | "in rows" | "in levels") | null;
            tool: components["schemas"]["ToolView"];
            /** Tool Kinds */
            tool_kinds: string[];
            /** Total */
            total: number;
            /** Vc */
            vc: number;
            /** Vf */
            vf: number;
            /**
             * Ways
             * @description that there are for such an operation, drawn or not
             */
            ways: ("in steps" | "constant engagement" | "in a helix" | "in rows" | "in levels")[];
        };
        /** EventBody */
        EventBody: {
            /**
             * At
             * Format: date-time
             */
            at: string;
            /**
             * Count
             * @default 0
             */
            count?: number;
            /**
             * Kind
             * @enum {string}
             */
            kind: "start" | "stop" | "load" | "good" | "scrap" | "note" | "photo" | "take-back";
            /**
             * Of
             * @default
             */
            of?: string;
            /**
             * Picture
             * @description JPEG or PNG, base64
             * @default
             */
            picture?: string;
            /**
             * Reason
             * @default
             */
            reason?: string;
            /**
             * Seconds
             * @default 0
             */
            seconds?: number;
            /**
             * Step
             * @default
             */
            step?: string;
            /**
             * Text
             * @default
             */
            text?: string;
            /** Token */
            token: string;
        };
        /** EventsBody */
        EventsBody: {
            /** Events */
            events: components["schemas"]["EventBody"][];
        };
        /** EventsTaken */
        EventsTaken: {
            floor: components["schemas"]["FloorView"];
            /** New */
            new: number;
            /** Refused */
            refused: components["schemas"]["RefusedEvent"][];
        };
        /**
         * FactorView
         * @description Of a machine and a category; `used` is the one that estimates are taken times now.
         */
        FactorView: {
            /** Category */
            category: string;
            /** Drawn */
            drawn: number;
            /** Factor */
            factor: number;
            /** Machine */
            machine: string;
            /** Machine Name */
            machine_name: string;
            /** Mean */
            mean: number;
            /** Off */
            off: number;
            /** Outliers */
            outliers: components["schemas"]["ObservationView"][];
            /** Programs */
            programs: number;
            /** Runs */
            runs: number;
            /** Scatter */
            scatter: number;
            /** Used */
            used: number | null;
            /** Used Words */
            used_words: string;
        };
        /** FactorsView */
        FactorsView: {
            /** Factors */
            factors: components["schemas"]["FactorView"][];
        };
        /**
         * FeatureCostView
         * @description Seconds of a piece with the ways to its operations; an operation on several features is shared evenly.
         */
        FeatureCostView: {
            /** After */
            after: number;
            /**
             * Became
             * @enum {string}
             */
            became: "same" | "moved" | "resized" | "new" | "gone";
            /** Before */
            before: number;
            /**
             * Each
             * @description what they change in the price of a piece
             */
            each: string;
            /** Feature */
            feature: string;
            /** Title */
            title: string;
            /**
             * Words
             * @description what became of its measures
             */
            words: string;
        };
        /** FeatureGroupView */
        FeatureGroupView: {
            /** Ids */
            ids: string[];
            pattern: components["schemas"]["PatternView"] | null;
            /** Title */
            title: string;
        };
        /**
         * FeaturePairView
         * @description `old` and `new` are ids in the plan, `own` is the new feature's id in its own model.
         */
        FeaturePairView: {
            /** Became */
            became: string;
            /** By Hand */
            by_hand: boolean;
            /** Changes */
            changes: components["schemas"]["ChangedView"][];
            /** Decided */
            decided: string[];
            /** Moved */
            moved: number;
            /** New */
            new: string | null;
            /** Old */
            old: string | null;
            /** Own */
            own: string | null;
            /** Title */
            title: string;
        };
        /** FeatureView */
        FeatureView: {
            /** Access */
            access: [
                number,
                number,
                number
            ][];
            /** Became */
            became: string;
            /** Faces */
            faces: number[];
            /** Id */
            id: string;
            /** In The Way */
            in_the_way: string;
            /** Is Flat Side */
            is_flat_side: boolean;
            /** Kind */
            kind: string;
            /** Left Out */
            left_out: string | null;
            /** Measures */
            measures: components["schemas"]["MeasureView"][];
            /** Movable To */
            movable_to: string[];
            /** Needs Machining */
            needs_machining: boolean;
            /** Operations */
            operations: string[];
            said: components["schemas"]["SaidView"];
            /** Setups */
            setups: string[];
            /** Threads */
            threads: string[];
            /** Title */
            title: string;
            /** Volume */
            volume: number;
        };
        /** FigureView */
        FigureView: {
            /** Formula */
            formula: string;
            /** Label */
            label: string;
            /** Unit */
            unit: string;
            /** Value */
            value: number;
        };
        /**
         * FiguresView
         * @description Where an operation's seconds come from: each number with its formula.
         */
        FiguresView: {
            /** Figures */
            figures: components["schemas"]["FigureView"][];
        };
        /** FindingView */
        FindingView: {
            /** Chapter */
            chapter: string;
            /** Code */
            code: string;
            /** Cures */
            cures: components["schemas"]["CureView"][];
            /** Features */
            features: string[];
            /** Operation */
            operation: string;
            /** Setup */
            setup: string;
            /** Severity */
            severity: string;
            /** Title */
            title: string;
            /** Why */
            why: string;
        };
        /** FixtureChoice */
        FixtureChoice: {
            /** Id */
            id: string;
            /** Kind */
            kind: string;
            /** Mount */
            mount: string;
            /** Name */
            name: string;
        };
        /** FloorEventView */
        FloorEventView: {
            /**
             * At
             * Format: date-time
             */
            at: string;
            /** Author */
            author: string;
            /** Token */
            token: string;
            /** Words */
            words: string;
        };
        /**
         * FloorLoadView
         * @description A load of the plan: its page at the machine, what was ticked there, what it was planned at.
         */
        FloorLoadView: {
            /** Address */
            address: string;
            book: components["schemas"]["BookView"];
            /**
             * Code
             * @description the address as a QR code, an SVG path of unit squares
             */
            code: string;
            /** Code Size */
            code_size: number;
            /** Load Seconds */
            load_seconds: number;
            /** Machine */
            machine: string;
            /** Setup */
            setup: string;
            /** Setup Seconds */
            setup_seconds: number;
            /** Setups */
            setups: string[];
            /** Steps */
            steps: components["schemas"]["FloorStepView"][];
        };
        /** FloorNoteView */
        FloorNoteView: {
            /**
             * At
             * Format: date-time
             */
            at: string;
            /** Author */
            author: string;
            /** Kind */
            kind: string;
            /** Photo */
            photo: string;
            /** Step */
            step: string;
            /** Text */
            text: string;
            /** Token */
            token: string;
        };
        /** FloorStepView */
        FloorStepView: {
            /** Done */
            done: boolean;
            /** Id */
            id: string;
            /** Lines */
            lines: string[];
            /** Runs */
            runs: boolean;
            /**
             * Seconds
             * @description of what ended
             */
            seconds: number;
            /**
             * Since
             * @description UTC, where it runs
             */
            since: string | null;
            /** Title */
            title: string;
        };
        /**
         * FloorView
         * @description A load at its machine: `version` is the plan's as it stands.
         */
        FloorView: {
            book: components["schemas"]["BookView"];
            /** Cycle */
            cycle: number;
            /**
             * Findings
             * @description errors of the plan
             */
            findings: number;
            /** Job */
            job: string;
            /** Last */
            last: components["schemas"]["FloorEventView"][];
            /** Load Seconds */
            load_seconds: number;
            /** Machine */
            machine: string;
            /** Name */
            name: string;
            /** Pieces */
            pieces: number;
            /** Plan Id */
            plan_id: number;
            /** Quantity */
            quantity: number;
            /** Reasons */
            reasons: string[];
            /** Revision */
            revision: string;
            /** Setup */
            setup: string;
            /** Setup Hours */
            setup_hours: number;
            /** Setups */
            setups: string[];
            /** Steps */
            steps: components["schemas"]["FloorStepView"][];
            /** Version */
            version: number;
        };
        /**
         * ForgetThread
         * @description Takes back a thread named for a size that no hole has any more.
         */
        ForgetThread: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            change: "forget-thread";
            /** Diameter */
            diameter: number;
        };
        /** FoundCycleView */
        FoundCycleView: {
            /** Bound */
            bound: number;
            change: components["schemas"]["ChangeBody"];
            /** Cycle */
            cycle: number;
            /**
             * Each
             * @description money that it saves a piece against what is decided now
             */
            each: number;
            /** Now */
            now: number;
            /** One By One */
            one_by_one: number;
            /** Proven */
            proven: boolean;
        };
        /**
         * FromBothSides
         * @description An operation of a load by two carriages on either side of the axis, two passes at a time; or by one again.
         */
        FromBothSides: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            change: "from-both-sides";
            /** Load */
            load: string;
            /** On */
            on: boolean;
            /** Operation */
            operation: string;
        };
        /**
         * GainView
         * @description A single step and what it saves: seconds a cycle, money a piece.
         */
        GainView: {
            change: components["schemas"]["ChangeBody"];
            /** Each */
            each: number;
            /** Saves */
            saves: number;
            /** Title */
            title: string;
        };
        /** GainsView */
        GainsView: {
            /** Gains */
            gains: components["schemas"]["GainView"][];
        };
        /** GoTo */
        GoTo: {
            /** Seq */
            seq: number;
        };
        /**
         * GraphView
         * @description Of one setup's operations, in layers; what follows from other precedences is left out.
         */
        GraphView: {
            /** Edges */
            edges: components["schemas"]["EdgeView"][];
            /** Nodes */
            nodes: components["schemas"]["NodeView"][];
            /** Setup */
            setup: string;
        };
        /** GridView */
        GridView: {
            /** Combinations */
            combinations: components["schemas"]["CombinationView"][];
            /**
             * Line
             * @description of the journal, that the combinations go on from
             */
            line: number;
            /** Quantities */
            quantities: number[];
            /** Refused */
            refused: components["schemas"]["RefusedMachine"][];
            /** Untried */
            untried: string[];
        };
        /**
         * GripView
         * @description One fixture in one turn: what it touches, friction over the greatest cutting force, what stands against it.
         */
        GripView: {
            /** Current */
            current: boolean;
            /** Fixture */
            fixture: string;
            /** Holds */
            holds: boolean;
            /** Load Seconds */
            load_seconds: number;
            /** Name */
            name: string;
            /** Reasons */
            reasons: string[];
            /** Safety */
            safety: number | null;
            /** Touches */
            touches: string;
            /** Turn */
            turn: number;
        };
        /**
         * GripsView
         * @description The best first.
         */
        GripsView: {
            /** Grips */
            grips: components["schemas"]["GripView"][];
        };
        /** GroupByTool */
        GroupByTool: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            change: "group-by-tool";
            /** Setup */
            setup: string;
        };
        /**
         * HandOver
         * @description All that is turned goes to a lathe with a counter spindle; the first end is made of the bar and cut off, and the
         *     counter spindle, which has it by then, brings the other end.
         */
        HandOver: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            change: "hand-over";
            /** Machine */
            machine: string;
        };
        /**
         * HandWorkView
         * @description What an operator does on each piece; `during` the cycle, or while the machine stands.
         */
        HandWorkView: {
            /** During */
            during: boolean;
            /** Id */
            id: string;
            /** Kind */
            kind: string;
            /** Seconds */
            seconds: number;
        };
        /**
         * HandoverView
         * @description A piece that goes from the main spindle into the counter spindle: seconds of each step; mm.
         */
        HandoverView: {
            /** Approach */
            approach: number;
            /**
             * At
             * @description machine Z of the counter spindle's mount while it takes the piece
             */
            at: number;
            /** Away */
            away: number;
            /**
             * Between
             * @description from the blade to what grips the piece
             */
            between: number;
            /**
             * By
             * @description how far the bar is pulled on, mm
             */
            by: number;
            /** Close */
            close: number;
            /** Cut Off */
            cut_off: number;
            /** Eject */
            eject: number;
            /**
             * Grips
             * @description what of the piece it closes on, in words
             */
            grips: string;
            /**
             * Pull
             * @description the main collet opens, the bar comes, it closes; 0 where the bar is fed
             */
            pull: number;
            /** Synchronise */
            synchronise: number;
        };
        /** HeightQuestion */
        HeightQuestion: {
            /** Along */
            along: [
                number,
                number,
                number
            ];
            /** Point */
            point: [
                number,
                number,
                number
            ];
        };
        /**
         * HeightView
         * @description mm of stock along the line.
         */
        HeightView: {
            /** Height */
            height: number;
        };
        /**
         * HoldView
         * @description What holds a setup, in its own axes: x to the right and y back in the view from above, z away from its mount.
         */
        HoldView: {
            /** Axes */
            axes: string[];
            /** Carriers */
            carriers: string[];
            /** Decided */
            decided: string | null;
            /** Fixture */
            fixture: string;
            /** Force */
            force: number;
            /** Force Decided */
            force_decided: number | null;
            /** Free */
            free: string | null;
            /** Grip */
            grip: number;
            /** Grip Decided */
            grip_decided: number | null;
            /** Gripped By */
            gripped_by: string;
            /** Grips */
            grips: number[];
            /** Horizontal */
            horizontal: boolean;
            /** Kind */
            kind: string;
            lies: components["schemas"]["LiesView"];
            /** Name */
            name: string;
            /** Needed */
            needed: string;
            /** Spacers */
            spacers: string[];
            /** Spins */
            spins: boolean;
            /** Stacks */
            stacks: components["schemas"]["StackView"][];
            /** Top */
            top: number | null;
            /** Touches */
            touches: string;
            /** Turns */
            turns: components["schemas"]["TurnView"][];
            /** Ways */
            ways: components["schemas"]["WayView"][];
            /** Words */
            words: components["schemas"]["WordView"][];
            /** Zero */
            zero: [
                number,
                number,
                number
            ];
        };
        /** HolderView */
        HolderView: {
            /** Description */
            description: string;
            /** Diameter */
            diameter: number;
            /** Id */
            id: string;
            /** Length */
            length: number;
            /** Tools */
            tools: number;
        };
        /**
         * HoleSizeView
         * @description All holes of one diameter, and the threads that fit them.
         */
        HoleSizeView: {
            /** Diameter */
            diameter: number;
            /** Features */
            features: string[];
            /** Options */
            options: string[];
            /** Thread */
            thread: string | null;
        };
        /**
         * HoursBody
         * @description `shifts` of machines that have one of their own; `shift` of the others, its machine empty.
         */
        HoursBody: {
            /** Closed */
            closed: components["schemas"]["ClosedBody"][];
            /** Material Days */
            material_days: number;
            /** Outside Days */
            outside_days: number;
            /**
             * Overtime
             * @description A decimal number, not below 0
             */
            overtime: string;
            shift: components["schemas"]["ShiftBody"];
            /** Shifts */
            shifts: components["schemas"]["ShiftBody"][];
            /**
             * Surcharge
             * @description A decimal number, not below 0
             */
            surcharge: string;
        };
        /**
         * InBarView
         * @description Pieces that stay in one bar or plate; `solids`: what stands with it, where its first piece stands alone. mm.
         */
        InBarView: {
            /**
             * Gap
             * @description the least between two parts
             */
            gap: number;
            /** Kerf */
            kerf: number;
            /**
             * Length
             * @description of the bar; 0 where each piece stands by itself, as width, kerf and gap are
             */
            length: number;
            /**
             * Pieces
             * @description side by side along the jaws
             */
            pieces: number;
            /**
             * Rows
             * @description of them, one behind the other: more than one in a plate
             */
            rows: number;
            /** Solids */
            solids: components["schemas"]["LoadSolidView"][];
            /**
             * Together
             * @description pieces of one bar or plate
             */
            together: number;
            /**
             * Vises
             * @description that hold a bar
             */
            vises: number;
            /** Width */
            width: number;
            /**
             * Word
             * @enum {string}
             */
            word: "bar" | "plate";
        };
        /** IssueBody */
        IssueBody: {
            /**
             * Mark
             * @description of the offer as it was seen
             */
            mark: string;
        };
        /**
         * JobEdit
         * @description Only what is given is changed; `due` and `ordered` may be given as null.
         */
        JobEdit: {
            /**
             * Customer
             * @default null
             */
            customer?: string | null;
            /**
             * Due
             * @default null
             */
            due?: string | null;
            /**
             * Name
             * @default null
             */
            name?: string | null;
            /**
             * Number
             * @default null
             */
            number?: string | null;
            /**
             * Ordered
             * @description pieces; null where it is the plan's first quantity
             * @default null
             */
            ordered?: number | null;
            /**
             * Status
             * @default null
             */
            status?: string | null;
        };
        /** JobForm */
        JobForm: {
            /**
             * Customer
             * @default
             */
            customer?: string;
            /**
             * Due
             * @description A date, or nothing
             * @default
             */
            due?: string;
            /**
             * File
             * Format: binary
             * @description A STEP file, .step or .stp, or a DXF drawing of flat work
             */
            file: File;
            /**
             * Machine
             * @description Id of the machine that it begins on; the one of the least price by itself
             * @default
             */
            machine?: string;
            /**
             * Material
             * @default al-6082
             */
            material?: string;
            /**
             * Name
             * @default
             */
            name?: string;
            /**
             * Number
             * @default
             */
            number?: string;
            /**
             * Quantities
             * @description Whole numbers, separated by commas or blanks
             * @default 10
             */
            quantities?: string;
            /**
             * Size Meant
             * @description The part is of an odd size, and that is meant
             * @default false
             */
            size_meant?: boolean;
            /**
             * Solid
             * @description Which of the file's solids, from 0
             * @default null
             */
            solid?: number | null;
            /**
             * Thickness
             * @description Of flat work, mm
             * @default
             */
            thickness?: string;
        };
        /** JobHours */
        JobHours: {
            /** Hours */
            hours: number;
            /** Job */
            job: string;
        };
        /** JobList */
        JobList: {
            /**
             * All
             * @description of the shop
             */
            all: number;
            /** Customers */
            customers: string[];
            /** Jobs */
            jobs: components["schemas"]["JobRow"][];
            /** Page */
            page: number;
            /** Pages */
            pages: number;
            /**
             * Total
             * @description that were asked for
             */
            total: number;
        };
        /** JobRef */
        JobRef: {
            /** Aligned */
            aligned: boolean;
            /** Customer */
            customer: string;
            /** Due */
            due: string | null;
            /** File */
            file: string;
            /** Id */
            id: number;
            /** Length Unit */
            length_unit: string;
            /** Name */
            name: string;
            /** Number */
            number: string;
            /**
             * Ordered
             * @description pieces
             * @default null
             */
            ordered?: number | null;
            /** Revision */
            revision: string;
            /** Status */
            status: string;
        };
        /**
         * JobRow
         * @description A line of the list; figures are those of the plan's last version, computed once and kept.
         */
        JobRow: {
            /** Cycle */
            cycle: number | null;
            /** Each */
            each: string | null;
            /** Errors */
            errors: number;
            /**
             * Followed
             * @description whether the findings hold what its stock shows; the price is sure only then
             */
            followed: boolean;
            job: components["schemas"]["JobRef"];
            /** Material */
            material: string;
            /**
             * Others
             * @description the job's other plans that are in sight
             */
            others: components["schemas"]["OtherPlan"][];
            /**
             * Picture
             * @description address of a small drawing; empty where there is none yet
             */
            picture: string;
            /** Plan Id */
            plan_id: number;
            /** Plan Name */
            plan_name: string;
            /** Quantities */
            quantities: number[];
            /**
             * State
             * @description older: from before the shop's tools or rules changed, computed again soon; waiting: none yet
             * @enum {string}
             */
            state: "fresh" | "older" | "waiting" | "broken";
            /**
             * Trouble
             * @description why a broken plan has no figures
             */
            trouble: string;
            /** Warnings */
            warnings: number;
        };
        /**
         * JoinView
         * @description A setup that could lie in the same load, and what could hold them in turn.
         */
        JoinView: {
            /** Along */
            along: ("stations" | "columns" | "rows" | "sides" | "spindles")[];
            /** Setup */
            setup: string;
        };
        /**
         * JoinedView
         * @description All setups of a machine in one file; `refused` says why they cannot be.
         */
        JoinedView: {
            /** File */
            file: string;
            /** Machine */
            machine: string;
            /** Name */
            name: string;
            /** Refused */
            refused: string;
            /** Setups */
            setups: string[];
            /** Total */
            total: number;
            /** Troubles */
            troubles: components["schemas"]["TroubleView"][];
        };
        /** JournalLine */
        JournalLine: {
            /** Ahead */
            ahead: boolean;
            /**
             * At
             * Format: date-time
             */
            at: string;
            /** Author */
            author: string;
            /** Current */
            current: boolean;
            effect: components["schemas"]["EffectView"];
            /** Parent */
            parent: number | null;
            /** Seq */
            seq: number;
            /** Words */
            words: string;
        };
        /**
         * JournalView
         * @description Some lines of a plan's journal, the newest last; those before them with `before`.
         */
        JournalView: {
            /** Current */
            current: number;
            /** Earlier */
            earlier: boolean;
            /** Edition */
            edition: number;
            /** Lines */
            lines: components["schemas"]["JournalLine"][];
        };
        /** KeepTogether */
        KeepTogether: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            change: "keep-together";
            /** Features */
            features: string[];
        };
        /**
         * LaneCallView
         * @description A call on its lane: its way begins, its tool is in, it goes on after waiting, it ends.
         */
        LaneCallView: {
            /** Begin */
            begin: number;
            /**
             * Counter
             * @description whether its piece is in the counter spindle
             */
            counter: boolean;
            /** Cutting */
            cutting: number;
            /** End */
            end: number;
            /** Go */
            go: number;
            /**
             * Most
             * @description at the most where it can share a speed
             */
            most: number | null;
            /**
             * N
             * @description where it cuts farthest out, if it keeps a surface speed
             */
            n: number;
            /** Name */
            name: string;
            /**
             * On Chain
             * @description in the chain of calls that is as long as the cycle
             */
            on_chain: boolean;
            /** Operation */
            operation: string;
            /** Piece */
            piece: string;
            /** Ready */
            ready: number;
            /**
             * Shared
             * @description the speed that it shares with others
             */
            shared: number | null;
            /**
             * Steady
             * @description whether it turns at one speed from end to end
             */
            steady: boolean;
            /** Tool */
            tool: number;
            /** Tool Name */
            tool_name: string;
            /**
             * Waits For
             * @description the operation that it waited for; empty where it did not wait
             */
            waits_for: string;
            /** Why */
            why: string;
        };
        /** LaneView */
        LaneView: {
            /** Calls */
            calls: components["schemas"]["LaneCallView"][];
            /** Carriage */
            carriage: string;
            /** End */
            end: number;
            /**
             * Position
             * @description of a drum of spindles; 0 where there is none
             */
            position: number;
            /**
             * Slide
             * @description of a drum: what works across the spindle, or from its end
             */
            slide: string;
            /**
             * Waiting
             * @description at marks, and from its end to that of the cycle
             */
            waiting: number;
        };
        /**
         * LastUsedEntry
         * @description What another plan has for such an operation: in words, and as an edit to be taken.
         */
        LastUsedEntry: {
            edit: components["schemas"]["EditOperation"];
            /** Name */
            name: string;
            /** Operation */
            operation: string;
            /**
             * Source
             * @description number of the job that it comes from
             */
            source: string;
            /** Words */
            words: string;
        };
        /** LastUsedView */
        LastUsedView: {
            /** Entries */
            entries: components["schemas"]["LastUsedEntry"][];
        };
        /**
         * LayOnFace
         * @description Stock is laid into what holds it by one of the part's faces: it rests on it, or has it at the fixed jaw.
         */
        LayOnFace: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            change: "lay-on-face";
            /** Face */
            face: number;
            /** Setup */
            setup: string;
            /**
             * To
             * @enum {string}
             */
            to: "rest" | "jaw";
        };
        /** LayoutView */
        LayoutView: {
            /** @description where the load is cut off a bar */
            bar: components["schemas"]["BarView"] | null;
            /**
             * Beside
             * @description loaded beside the running cycle
             */
            beside: boolean;
            /**
             * By
             * @enum {string}
             */
            by: "tool" | "operation" | "piece" | "hand";
            /** Can Have Sides */
            can_have_sides: boolean;
            /** Can Join */
            can_join: components["schemas"]["JoinView"][];
            /** Columns */
            columns: number;
            /**
             * Each
             * @description seconds of a finished piece, with its loading
             */
            each: number;
            /**
             * Faces
             * @description degrees at which sides come up; empty where nothing has sides
             */
            faces: number[];
            /**
             * Filling
             * @description seconds a batch of filling and emptying cycles, beyond the whole ones
             */
            filling: number;
            /**
             * Finished
             * @description pieces that a cycle finishes: as many as each setup has
             */
            finished: number;
            /** First */
            first: string | null;
            /**
             * Fit
             * @description columns and rows of as many as go in
             */
            fit: [
                number,
                number
            ];
            /** Gap */
            gap: [
                number,
                number
            ];
            /** Gap Decided */
            gap_decided: [
                boolean,
                boolean
            ];
            /**
             * In Turn
             * @description what holds the setups in turn, where there are several
             * @enum {string}
             */
            in_turn: "stations" | "columns" | "rows" | "sides" | "spindles";
            /** @description None where pieces do not stay in one bar */
            joined: components["schemas"]["InBarView"] | null;
            /** Least */
            least: [
                components["schemas"]["LeastView"],
                components["schemas"]["LeastView"]
            ];
            /** Load */
            load: string;
            /** Machine */
            machine: string;
            /** Most Stations */
            most_stations: number;
            /**
             * Name
             * @description its setups
             */
            name: string;
            /**
             * Not Turned
             * @description why no piece can be turned by itself; empty where they can
             */
            not_turned: string;
            /** Pieces */
            pieces: components["schemas"]["PieceView"][];
            /** Pitch */
            pitch: [
                number,
                number
            ];
            /**
             * Policy
             * @enum {string}
             */
            policy: "piece" | "group" | "load";
            /** Reserved */
            reserved: string[];
            /** Rows */
            rows: number;
            /**
             * Runs
             * @description by quantity of the plan
             */
            runs: components["schemas"]["RunView"][];
            /** Setups */
            setups: components["schemas"]["LoadSetupView"][];
            /**
             * Several
             * @description why no more than one can lie there; empty where they can
             */
            several: string;
            /** Sides */
            sides: number[];
            /**
             * Spins
             * @description the work turns: seen along the spindle, where travels say nothing
             */
            spins: boolean;
            /** Stations */
            stations: number;
            /** Travel */
            travel: [
                [
                    number,
                    number
                ],
                [
                    number,
                    number
                ]
            ];
            /**
             * Turned
             * @description the setups as they stand at pieces that are turned
             */
            turned: components["schemas"]["LoadSetupView"][];
            /**
             * Turns
             * @description what could hold them in turn
             */
            turns: ("stations" | "columns" | "rows" | "sides" | "spindles")[];
            /**
             * Walk
             * @enum {string}
             */
            walk: "rows" | "columns" | "snake";
            /**
             * Words
             * @description that the control has
             */
            words: string[];
        };
        /** LayoutsView */
        LayoutsView: {
            /** Loads */
            loads: components["schemas"]["LayoutView"][];
        };
        /** LeadView */
        LeadView: {
            /**
             * Begins
             * Format: date
             */
            begins: string;
            /** Machines */
            machines: components["schemas"]["MachineHoursView"][];
            /** Quantity */
            quantity: number;
            /**
             * Ready
             * Format: date
             */
            ready: string;
            rush: components["schemas"]["RushView"] | null;
            /** Weeks */
            weeks: number;
        };
        /**
         * LeastView
         * @description `most` along the axis, and what keeps one more out; `because`: what asks for the pitch.
         */
        LeastView: {
            /** Because */
            because: string;
            /** Most */
            most: number;
            /** Operation */
            operation: string | null;
            /** Pitch */
            pitch: number;
            /** Why */
            why: string;
        };
        /** LeaveOut */
        LeaveOut: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            change: "leave-out";
            /** Features */
            features: string[];
            /**
             * Reason
             * @enum {string}
             */
            reason: "deburring" | "made elsewhere" | "filled for now";
        };
        /**
         * LeftOutView
         * @description An operation that is not made, since it would cut the part or what holds it: another tool may do.
         */
        LeftOutView: {
            /**
             * Another
             * @description id of one more tool of the kind; empty where there is none to have
             */
            another: string;
            /** Edited */
            edited: ("tool" | "speed" | "feed" | "n" | "vf" | "ap" | "ae" | "passes" | "allowance" | "strategy" | "direction")[];
            /** Features */
            features: string[];
            /** Id */
            id: string;
            /** Name */
            name: string;
            tool: components["schemas"]["ToolView"];
            /** Tool Kinds */
            tool_kinds: string[];
        };
        /** LibraryView */
        LibraryView: {
            /** Fixtures */
            fixtures: components["schemas"]["FixtureChoice"][];
            /** Machines */
            machines: components["schemas"]["MachineChoice"][];
            /** Materials */
            materials: components["schemas"]["MaterialChoice"][];
            /** Statuses */
            statuses: string[];
            /** Threads */
            threads: components["schemas"]["ThreadChoice"][];
            /** Tools */
            tools: components["schemas"]["ToolView"][];
        };
        /**
         * LiesView
         * @description Sides of the part, with its faces there, by their numbers: what it rests on, what is at the fixed jaw.
         */
        LiesView: {
            /** Back */
            back: string;
            /** Back Faces */
            back_faces: number[];
            /** Back Named */
            back_named: string;
            /** Base */
            base: string;
            /** Base Faces */
            base_faces: number[];
            /** Base Named */
            base_named: string;
        };
        /** LineChange */
        LineChange: {
            /** Each */
            each: string;
            /** Line */
            line: string;
        };
        /**
         * LoadApart
         * @description Each setup of a load in a load of its own again, with as many pieces of it as before.
         */
        LoadApart: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            change: "load-apart";
            /** Load */
            load: string;
        };
        /**
         * LoadBeside
         * @description The next load is laid in while this one is made, on a second pallet or the other side of a table that turns.
         */
        LoadBeside: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            change: "load-beside";
            /** Load */
            load: string;
            /** On */
            on: boolean;
        };
        /**
         * LoadSetupView
         * @description What stands with each piece of a setup that is turned so, as if it were alone.
         */
        LoadSetupView: {
            /**
             * Drawn
             * @description of the view from above, to where one piece alone stands; null where it cannot be laid there
             */
            drawn: [
                number,
                number
            ] | null;
            /** Setup */
            setup: string;
            /** Solids */
            solids: components["schemas"]["LoadSolidView"][];
            /**
             * Turn
             * @enum {integer}
             */
            turn: 0 | 90 | 180 | 270;
        };
        /**
         * LoadSolidView
         * @description A block of one piece that stands alone: `low` and `high` corners.
         */
        LoadSolidView: {
            /** High */
            high: [
                number,
                number,
                number
            ];
            /** Low */
            low: [
                number,
                number,
                number
            ];
            /** Shared */
            shared: boolean;
            /** What */
            what: string;
        };
        /**
         * LoadTogether
         * @description Another setup's pieces lie beside those of a load, so that each cycle makes both; `in_turn`: what holds them in
         *     turn.
         */
        LoadTogether: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            change: "load-together";
            /**
             * In Turn
             * @default columns
             * @enum {string}
             */
            in_turn?: "stations" | "columns" | "rows" | "sides" | "spindles";
            /** Load */
            load: string;
            /** Setup */
            setup: string;
        };
        /** LoadView */
        LoadView: {
            /** Bend */
            bend: number;
            /** Bend Limit */
            bend_limit: number;
            /** Force */
            force: number;
            /**
             * Nearest
             * @description the limit that it comes nearest to: power, torque or bending
             */
            nearest: string;
            /** Power */
            power: number;
            /** Power Limit */
            power_limit: number;
            /**
             * Share
             * @description of that limit
             */
            share: number;
            /** Torque */
            torque: number;
            /** Torque Limit */
            torque_limit: number;
        };
        /** LockSetup */
        LockSetup: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            change: "lock-setup";
            /** Locked */
            locked: boolean;
            /** Setup */
            setup: string;
        };
        /**
         * LockSteps
         * @description Steps of the cycle that stand one behind the other stay so, whatever is sorted, moved or found around them.
         */
        LockSteps: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            change: "lock-steps";
            /** Load */
            load: string;
            /**
             * Locked
             * @default true
             */
            locked?: boolean;
            /** Steps */
            steps: [
                string,
                string
            ][];
        };
        /**
         * LostView
         * @description A feature that no setup of three axes reaches, and the machines of the shop that could.
         */
        LostView: {
            /** Feature */
            feature: string;
            /** Machines */
            machines: string[];
            /** Title */
            title: string;
        };
        /** LotView */
        LotView: {
            /** Begins */
            begins: string | null;
            /** Customer */
            customer: string;
            /** Due */
            due: string | null;
            /** Hours */
            hours: number;
            /** Job */
            job: string;
            /** Job Id */
            job_id: number;
            /** Late */
            late: number;
            /**
             * Made
             * @description hours that are done, by what was counted and ticked at the machines
             */
            made: number;
            /** Name */
            name: string;
            /** Plan */
            plan: number;
            /** Quantity */
            quantity: number;
            /** Ready */
            ready: string | null;
            /** Trouble */
            trouble: string;
        };
        /** MachineChoice */
        MachineChoice: {
            /** Axes */
            axes: string;
            /** Id */
            id: string;
            /** Kind */
            kind: string;
            /** Max Rpm */
            max_rpm: number;
            /** Name */
            name: string;
            /** Power */
            power: number;
            /** Rate */
            rate: string;
            /** Tool Change */
            tool_change: number;
        };
        /** MachineHoursView */
        MachineHoursView: {
            /** Hours */
            hours: number;
            /** Machine */
            machine: string;
            /** Name */
            name: string;
        };
        /** MachineLoadView */
        MachineLoadView: {
            /** Machine */
            machine: string;
            /** Name */
            name: string;
            /**
             * Own
             * @description whether the shift is its own
             */
            own: boolean;
            shift: components["schemas"]["ShiftBody"];
            /** Weeks */
            weeks: components["schemas"]["WeekView"][];
        };
        /** MachinesView */
        MachinesView: {
            /** Machines */
            machines: components["schemas"]["OnMachineView"][];
        };
        /** MagazineBody */
        MagazineBody: {
            /**
             * Tools
             * @description ids; on a lathe in the order of the stations
             */
            tools: string[];
        };
        /**
         * MagazineView
         * @description The tools that stand in a machine, by their ids, and those that could.
         */
        MagazineView: {
            /** Machine */
            machine: string;
            /** Name */
            name: string;
            /** Others */
            others: string[];
            /** Own */
            own: boolean;
            /**
             * Places
             * @description pockets or stations
             */
            places: string;
            /** Pockets */
            pockets: number;
            /** Tools */
            tools: string[];
        };
        /**
         * MakeAs
         * @description Features made by one of the shop's rules, whatever the rules' conditions say; None lets the rules choose.
         */
        MakeAs: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            change: "make-as";
            /** Features */
            features: string[];
            /** Rule */
            rule: string | null;
        };
        /** MarkView */
        MarkView: {
            /** At */
            at: number;
            /** Carriages */
            carriages: string[];
            /** Code */
            code: string;
        };
        /** MaterialChoice */
        MaterialChoice: {
            /** Density */
            density: string;
            /** Id */
            id: string;
            /** Name */
            name: string;
            /** Price Per Kg */
            price_per_kg: string;
        };
        /** MeasureView */
        MeasureView: {
            /** Label */
            label: string;
            /** Source */
            source: string;
            /** Unit */
            unit: string;
            /** Value */
            value: number;
        };
        /**
         * MergeSetups
         * @description All that a setup makes goes into another one, and the setup away.
         */
        MergeSetups: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            change: "merge-setups";
            /** Into */
            into: string;
            /** Setup */
            setup: string;
        };
        /**
         * MeshView
         * @description Flat lists, three numbers a vertex; `faces[i]` is the face of triangle i; edges as polylines.
         */
        MeshView: {
            /** Edges */
            edges: number[][];
            /** Faces */
            faces: number[];
            /** Max */
            max: [
                number,
                number,
                number
            ];
            /** Min */
            min: [
                number,
                number,
                number
            ];
            /** Triangles */
            triangles: number[];
            /** Vertices */
            vertices: number[];
        };
        /** MoveFeature */
        MoveFeature: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            change: "move-feature";
            /** Features */
            features: string[];
            /** Setup */
            setup: string;
        };
        /**
         * MoveSteps
         * @description Some steps one behind the other, the first of them at a position, counted from 0 without them.
         */
        MoveSteps: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            change: "move-steps";
            /** Load */
            load: string;
            /** Steps */
            steps: [
                string,
                string
            ][];
            /** To */
            to: number;
        };
        /**
         * MoveToMachine
         * @description All setups on one machine.
         */
        MoveToMachine: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            change: "move-to-machine";
            /** Machine */
            machine: string;
        };
        /**
         * NameSection
         * @description What begins with a step of the cycle has a name, up to the next section; without a name it has none.
         */
        NameSection: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            change: "name-section";
            /** Load */
            load: string;
            /** Name */
            name: string;
            /** Operation */
            operation: string;
            /** Piece */
            piece: string;
        };
        /**
         * NewAlternative
         * @description A plan forked from a line of this one's journal, with some changes made at once.
         */
        NewAlternative: {
            /**
             * Changes
             * @default []
             */
            changes?: {
                [key: string]: unknown;
            }[];
            /**
             * Name
             * @description the name of the plan that it comes from by itself
             * @default
             */
            name?: string;
            /**
             * Seq
             * @description the line; the current one by itself
             * @default null
             */
            seq?: number | null;
        };
        /**
         * NewQuote
         * @description Of a customer by id, or by name: one that is not known is made.
         */
        NewQuote: {
            /**
             * Customer
             * @default null
             */
            customer?: number | null;
            /**
             * Customer Name
             * @default
             */
            customer_name?: string;
            /**
             * Lines
             * @default []
             */
            lines?: components["schemas"]["AskedLineBody"][];
        };
        /**
         * NodeView
         * @description An operation in the drawing of what comes before what.
         */
        NodeView: {
            /** Layer */
            layer: number;
            /** Name */
            name: string;
            /** Operation */
            operation: string;
            /** Place */
            place: number;
            /** Tool */
            tool: number;
        };
        /**
         * NotBefore
         * @description A precedence that was made by hand is taken away.
         */
        NotBefore: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            change: "not-before";
            /** First */
            first: string;
            /** Load */
            load: string;
            /** Then */
            then: string;
        };
        /** ObservationView */
        ObservationView: {
            /** Ratio */
            ratio: number;
            /** Words */
            words: string;
        };
        /** OfferLineView */
        OfferLineView: {
            /** Breaks */
            breaks: components["schemas"]["BreakView"][];
            /**
             * Cheaper
             * @description from how many pieces on the next break costs less in all
             */
            cheaper: components["schemas"]["CheaperView"][];
            /** Job */
            job: string;
            /** Material */
            material: string;
            /** Missing */
            missing: string[];
            /** Name */
            name: string;
            /** Note */
            note: string;
            /** Plan */
            plan: number;
            /** Plan Name */
            plan_name: string;
            /** Revision */
            revision: string;
            /** Version */
            version: number;
        };
        /** OfferView */
        OfferView: {
            /** Currency */
            currency: string;
            /** Delivery */
            delivery: string;
            /**
             * Issued
             * Format: date
             */
            issued: string;
            /** Lines */
            lines: components["schemas"]["OfferLineView"][];
            /** Not Included */
            not_included: string[];
            /** Payment */
            payment: string;
            /** Rate */
            rate: string;
            /**
             * Until
             * Format: date
             */
            until: string;
            /** Words */
            words: string;
        };
        /**
         * OnMachineView
         * @description All setups on one machine; where `refused` says why not, the figures are none.
         */
        OnMachineView: {
            /** Axes */
            axes: string;
            /** Come */
            come: string[];
            /** Current */
            current: boolean;
            /** Cycle */
            cycle: number | null;
            /** Cycle Change */
            cycle_change: number | null;
            /** Each */
            each: string | null;
            /** Each Change */
            each_change: string | null;
            /** Gone */
            gone: string[];
            /** Id */
            id: string;
            /** Name */
            name: string;
            /** Rate */
            rate: string;
            /** Refused */
            refused: string;
            /** Setup Hours */
            setup_hours: string | null;
        };
        /** OnceView */
        OnceView: {
            /** Amount */
            amount: string;
            /** How */
            how: string;
            /** What */
            what: string;
        };
        /**
         * OneAfterOther
         * @description All operations of a load on the first carriage, each at its own speed.
         */
        OneAfterOther: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            change: "one-after-other";
            /** Load */
            load: string;
        };
        /** OrderByRule */
        OrderByRule: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            change: "order-by-rule";
            /** Setup */
            setup: string;
        };
        /** OrderedBody */
        OrderedBody: {
            /** Plan */
            plan: number;
            /** Quantity */
            quantity: number;
        };
        /** OrderedView */
        OrderedView: {
            counts: components["schemas"]["CountsOfOrder"];
            /** Name */
            name: string;
            /**
             * Runs
             * @description empty where there are too many to be drawn
             */
            runs: components["schemas"]["ToolRunView"][];
        };
        /**
         * OtherPlan
         * @description An alternative of a job, with the figures kept of it.
         */
        OtherPlan: {
            /** Cycle */
            cycle: number | null;
            /** Each */
            each: string | null;
            /** Errors */
            errors: number;
            /** Name */
            name: string;
            /** Plan Id */
            plan_id: number;
        };
        /**
         * OutView
         * @description An operation that does not run for now.
         */
        OutView: {
            /** Name */
            name: string;
            /** Operation */
            operation: string;
        };
        /** OutcomeView */
        OutcomeView: {
            /** Changes */
            changes: number;
            /** Each */
            each: string;
            /** Life */
            life: number;
            load: components["schemas"]["LoadView"];
            /** N */
            n: number;
            /** Per Piece */
            per_piece: number;
            /** Seconds */
            seconds: number;
            /** Vf */
            vf: number;
        };
        /** OverView */
        OverView: {
            /** Feature */
            feature: string;
            /** Over */
            over: number | null;
            /** Title */
            title: string;
        };
        /**
         * Overrule
         * @description A precedence that the rules know does not hold here; the note stays on the sheet. Without one it holds again.
         */
        Overrule: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            change: "overrule";
            /** First */
            first: string;
            /** Load */
            load: string;
            /**
             * Note
             * @default
             */
            note?: string;
            /** Then */
            then: string;
        };
        /**
         * OwnSpeed
         * @description Operations turn at their own speeds again; a group of which one is left is taken apart.
         */
        OwnSpeed: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            change: "own-speed";
            /** Load */
            load: string;
            /** Operations */
            operations: string[];
        };
        /** PaceView */
        PaceView: {
            after: components["schemas"]["OutcomeView"];
            /**
             * Alike
             * @description other operations of its sort
             */
            alike: number;
            before: components["schemas"]["OutcomeView"];
            change: components["schemas"]["ChangeBody"];
            /** Feed */
            feed: number;
            /** Feed Most */
            feed_most: number;
            /** Feed Stop */
            feed_stop: string;
            /** Operation */
            operation: string;
            /** Quantity */
            quantity: number;
            /** Speed */
            speed: number;
            /** Speed Most */
            speed_most: number;
            /** Speed Stop */
            speed_stop: string;
        };
        /**
         * PairByRule
         * @description Takes all pairs by hand of a revision back.
         */
        PairByRule: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            change: "pair-by-rule";
            /** Revision */
            revision: string;
        };
        /**
         * PairFeatures
         * @description In a revision, this feature of the new model is that one of the plan; either may be null.
         */
        PairFeatures: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            change: "pair-features";
            /** New */
            new: string | null;
            /** Old */
            old: string | null;
            /** Revision */
            revision: string;
        };
        /**
         * ParkFeatures
         * @description Takes features out of their setups: they wait to be placed.
         */
        ParkFeatures: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            change: "park-features";
            /** Features */
            features: string[];
        };
        /**
         * PartProgramView
         * @description What a part of a load takes: seconds on the simulated machine, and what it would stop at.
         */
        PartProgramView: {
            /** Difference */
            difference: number;
            /**
             * Files
             * @description one for each carriage that has something to run
             */
            files: string[];
            /** Total */
            total: number;
            /** Troubles */
            troubles: components["schemas"]["TroubleView"][];
            /** Words */
            words: string;
        };
        /** PatternView */
        PatternView: {
            /** Center */
            center: [
                number,
                number,
                number
            ];
            /** Columns */
            columns: number;
            /** Diameter */
            diameter: number;
            /** Pitch */
            pitch: number;
            /** Row Pitch */
            row_pitch: number;
            /** Rows */
            rows: number;
            /** Shape */
            shape: string;
            /** Words */
            words: string;
        };
        /** PickReadingView */
        PickReadingView: {
            /** Label */
            label: string;
            /** Line */
            line: [
                [
                    number,
                    number,
                    number
                ],
                [
                    number,
                    number,
                    number
                ]
            ] | null;
            /** Unit */
            unit: string;
            /** Value */
            value: number;
        };
        /** PickReadings */
        PickReadings: {
            /** Readings */
            readings: components["schemas"]["PickReadingView"][];
        };
        /** PickView */
        PickView: {
            /** Face */
            face: number;
            /** Point */
            point: [
                number,
                number,
                number
            ];
        };
        /**
         * PicksBody
         * @description One or two places on the part that were pointed at.
         */
        PicksBody: {
            /** Picks */
            picks: components["schemas"]["PickView"][];
            /**
             * Revision
             * @default
             */
            revision?: string;
        };
        /** PieceView */
        PieceView: {
            /** Column */
            column: number;
            /** Group */
            group: string;
            /** Id */
            id: string;
            /**
             * In Bar
             * @description its number among those that stay in one bar; 0 where it stands by itself
             */
            in_bar: number;
            /**
             * Local
             * @description from the word's own zero, where pieces share it
             */
            local: [
                number,
                number,
                number
            ];
            /**
             * Moved
             * @description by hand
             */
            moved: [
                number,
                number
            ];
            /**
             * Named
             * @description by hand
             */
            named: boolean;
            /**
             * Offset
             * @description its word; empty where the control has none left
             */
            offset: string;
            /** Row */
            row: number;
            /** Setup */
            setup: string;
            /**
             * Shift
             * @description from where one piece alone stands
             */
            shift: [
                number,
                number
            ];
            /**
             * Side
             * @description degrees of the rotary
             */
            side: number | null;
            /** Skipped */
            skipped: boolean;
            /**
             * Trouble
             * @description what is wrong where it stands; empty where nothing is
             */
            trouble: string;
            /**
             * Turn
             * @description degrees that it is turned by with what holds it, counter-clockwise from above
             * @enum {integer}
             */
            turn: 0 | 90 | 180 | 270;
            /** Zero */
            zero: [
                number,
                number,
                number
            ];
        };
        /** PlanFloorView */
        PlanFloorView: {
            /** By Category */
            by_category: components["schemas"]["BesideView"][];
            /** By Program */
            by_program: components["schemas"]["BesideView"][];
            /** By Tool */
            by_tool: components["schemas"]["BesideView"][];
            /** Loads */
            loads: components["schemas"]["FloorLoadView"][];
            /** Runs */
            runs: number;
        };
        /** PlanView */
        PlanView: {
            /** Allowances */
            allowances: components["schemas"]["AllowanceView"][];
            axis: components["schemas"]["AxisView"] | null;
            /**
             * Beside
             * @description carriages that work at the same time in a load, at the most; 0 where none do
             */
            beside: number;
            /** Bodies */
            bodies: components["schemas"]["BodyView"][];
            /** Can Redo */
            can_redo: boolean;
            /** Can Undo */
            can_undo: boolean;
            /** Chips Share */
            chips_share: number;
            /**
             * Chosen
             * @description whether the job is made by this plan
             */
            chosen: boolean;
            /** Edition */
            edition: number;
            /** Features */
            features: components["schemas"]["FeatureView"][];
            /** Findings */
            findings: components["schemas"]["FindingView"][];
            /** Form */
            form: string;
            /** Groups */
            groups: components["schemas"]["FeatureGroupView"][];
            /** Holes */
            holes: components["schemas"]["HoleSizeView"][];
            job: components["schemas"]["JobRef"];
            /** Lines */
            lines: number;
            /** Material */
            material: string;
            /** Material Name */
            material_name: string;
            now: components["schemas"]["JournalLine"];
            /** Parked */
            parked: string[];
            /** Part Size */
            part_size: [
                number,
                number,
                number
            ];
            /** Part Volume */
            part_volume: number;
            /** Plan Id */
            plan_id: number;
            /** Plan Name */
            plan_name: string;
            /**
             * Plans
             * @description of the job, that are in sight
             */
            plans: number;
            price: components["schemas"]["PriceView"];
            /** Quantities */
            quantities: number[];
            /** Revisions */
            revisions: components["schemas"]["RevisionView"][];
            /** Setups */
            setups: components["schemas"]["SetupView"][];
            /** Stock */
            stock: [
                number,
                number,
                number
            ];
            stock_choice: components["schemas"]["StockChoiceView"];
            /** Stock Followed */
            stock_followed: boolean;
            strip: components["schemas"]["Strip"];
            /** Version */
            version: number;
        };
        /** PlayView */
        PlayView: {
            /** Entries */
            entries: components["schemas"]["PlayedView"][];
            /** Loads */
            loads: components["schemas"]["PlayedLoadView"][];
            /** Setups */
            setups: components["schemas"]["PlayedSetupView"][];
            /** Total */
            total: number;
        };
        /**
         * PlayedLoadView
         * @description A load of several pieces that is shown whole; `shared` is what carries them, in the coordinates of `alone`.
         */
        PlayedLoadView: {
            /** Above */
            above: [
                number,
                number,
                number
            ];
            alone: components["schemas"]["PoseView"];
            /**
             * Axis
             * @description a point of the table's axis and its direction
             */
            axis: [
                [
                    number,
                    number,
                    number
                ],
                [
                    number,
                    number,
                    number
                ]
            ] | null;
            /** Max */
            max: [
                number,
                number,
                number
            ];
            /** Min */
            min: [
                number,
                number,
                number
            ];
            /** Poses */
            poses: components["schemas"]["PoseView"][];
            /** Right */
            right: [
                number,
                number,
                number
            ];
            /** Setups */
            setups: string[];
            shared: components["schemas"]["StockSolidView"] | null;
        };
        /**
         * PlayedSetupView
         * @description What holds the stock, and the machine's axes, in the part's coordinates.
         */
        PlayedSetupView: {
            /** Above */
            above: [
                number,
                number,
                number
            ];
            fixture: components["schemas"]["StockSolidView"];
            /** Right */
            right: [
                number,
                number,
                number
            ];
            /** Setup */
            setup: string;
        };
        /** PlayedView */
        PlayedView: {
            /** After */
            after: number;
            /**
             * Before
             * @description operations of the plan that the piece has been through
             */
            before: number;
            /** Finding */
            finding: string;
            /** Lead */
            lead: number;
            /** Name */
            name: string;
            /** Operation */
            operation: string;
            /**
             * Place
             * @description the piece of a load of several that is shown; else empty
             */
            place: string;
            /** Seconds */
            seconds: number;
            /** Setup */
            setup: string;
            /** Start */
            start: number;
            /** Tool */
            tool: string;
        };
        /**
         * PoseView
         * @description A piece's own coordinates to the machine's while its rotary stands at 0: `matrix` is 3 × 4, row by row.
         */
        PoseView: {
            /**
             * Brought
             * @description the machine's coordinates to where all stands once the piece is up
             */
            brought: number[];
            /**
             * Holds
             * @description what holds it stands with it; false for those behind the first of a bar
             */
            holds: boolean;
            /** Matrix */
            matrix: number[];
            /** Place */
            place: string;
            /** Setup */
            setup: string;
        };
        /** PriceLine */
        PriceLine: {
            /** Cost */
            cost: string;
            /** Line */
            line: string;
        };
        /** PriceView */
        PriceView: {
            /** Buy */
            buy: string;
            /** Curve */
            curve: components["schemas"]["CurvePoint"][];
            /** Material Kg */
            material_kg: number;
            /**
             * Missing
             * @description what of the part no price holds
             */
            missing: string[];
            /** Quantities */
            quantities: components["schemas"]["QuantityView"][];
            /** Rates */
            rates: components["schemas"]["RateView"][];
            /** Sure */
            sure: components["schemas"]["SureView"][];
            tool_wear: components["schemas"]["FigureView"];
        };
        /**
         * ProbeView
         * @description The zero, a bore or a slot: whether a probe feels it, and the seconds that takes.
         */
        ProbeView: {
            /** On */
            on: boolean;
            /** Seconds */
            seconds: number | null;
            /** Title */
            title: string;
            /** What */
            what: string;
        };
        /**
         * Problem
         * @description application/problem+json (RFC 9457); `request` is what the log calls it by.
         */
        Problem: {
            /** Detail */
            detail: string;
            /**
             * Place
             * @default
             */
            place?: string;
            /**
             * Request
             * @default
             */
            request?: string;
            /** Status */
            status: number;
            /** Title */
            title: string;
            /** Type */
            type: string;
        };
        /** ProgramForm */
        ProgramForm: {
            /**
             * File
             * Format: binary
             * @description A program in ISO 6983 words
             */
            file: File;
            /**
             * Operation
             * @description The operation that it makes; empty for the whole setup
             * @default
             */
            operation?: string;
        };
        /** ProgramOffsetView */
        ProgramOffsetView: {
            /** At */
            at: [
                number,
                number,
                number
            ];
            /** Side */
            side: string;
            /** Word */
            word: string;
        };
        /** ProgramToolView */
        ProgramToolView: {
            /** Description */
            description: string;
            /** Number */
            number: number;
        };
        /** ProgramsView */
        ProgramsView: {
            /**
             * Issued By
             * @description setup or machine: what has a file of its own
             * @enum {string}
             */
            issued_by: "setup" | "machine";
            /**
             * Joined
             * @description of machines that make more than one setup
             */
            joined: components["schemas"]["JoinedView"][];
            /** Setups */
            setups: components["schemas"]["SetupProgramView"][];
        };
        /**
         * PullBar
         * @description The counter spindle pulls the bar on before it cuts a piece off, or the bar is fed again.
         */
        PullBar: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            change: "pull-bar";
            /** Load */
            load: string;
            /**
             * On
             * @default true
             */
            on?: boolean;
        };
        /** PushedView */
        PushedView: {
            /** Due */
            due: string | null;
            /** Job */
            job: string;
            /** Late */
            late: number;
            /**
             * Ready
             * Format: date
             */
            ready: string;
        };
        /** QuantityView */
        QuantityView: {
            /** Cost */
            cost: string;
            /** Each */
            each: string;
            /** Lines */
            lines: components["schemas"]["PriceLine"][];
            /** Machine Hours */
            machine_hours: string;
            /** Price */
            price: string;
            /** Quantity */
            quantity: number;
            /** Started */
            started: number;
        };
        /**
         * QuoteBody
         * @description All of what a draft asks for; null and empty are the customer's own terms, else the shop's.
         */
        QuoteBody: {
            /** Customer */
            customer: number;
            /**
             * Delivery
             * @default
             */
            delivery?: string;
            /** Lines */
            lines: components["schemas"]["AskedLineBody"][];
            /**
             * Not Included
             * @default null
             */
            not_included?: string[] | null;
            /**
             * Payment
             * @default
             */
            payment?: string;
            /**
             * Valid Days
             * @default null
             */
            valid_days?: number | null;
            /**
             * Words
             * @default
             */
            words?: string;
        };
        /** QuoteRowView */
        QuoteRowView: {
            /**
             * At
             * Format: date-time
             */
            at: string;
            /** Currency */
            currency: string;
            /** Customer */
            customer: string;
            /**
             * Expired
             * @description it waits for an answer, and is not valid any more
             */
            expired: boolean;
            /** Id */
            id: number;
            /** Issued */
            issued: string | null;
            /**
             * Least
             * @description of its smallest lots together, in its currency
             */
            least: string | null;
            /** Number */
            number: string;
            /** Parts */
            parts: string[];
            /** Reason */
            reason: string;
            /** State */
            state: string;
            /** Until */
            until: string | null;
            /** Version */
            version: number;
        };
        /** QuoteVersionView */
        QuoteVersionView: {
            /** Id */
            id: number;
            /** State */
            state: string;
            /** Version */
            version: number;
        };
        /** QuoteView */
        QuoteView: {
            asked: components["schemas"]["QuoteBody"];
            /** Author */
            author: string;
            /** Changed */
            changed: string[];
            customer: components["schemas"]["CustomerView"];
            /** Expired */
            expired: boolean;
            /** Id */
            id: number;
            /**
             * Made
             * Format: date-time
             */
            made: string;
            /**
             * Mark
             * @description another text whenever it offers something else
             */
            mark: string;
            /** Number */
            number: string;
            offer: components["schemas"]["OfferView"] | null;
            /** Ordered */
            ordered: components["schemas"]["OrderedBody"][];
            /** Reason */
            reason: string;
            /** Reason Words */
            reason_words: string;
            /** State */
            state: string;
            /**
             * Trouble
             * @description why a draft cannot be priced
             */
            trouble: string;
            /** Version */
            version: number;
            /** Versions */
            versions: components["schemas"]["QuoteVersionView"][];
        };
        /** QuotesView */
        QuotesView: {
            /** Currency */
            currency: string;
            /** Customers */
            customers: components["schemas"]["TallyView"][];
            /** Lost */
            lost: components["schemas"]["ReasonView"][];
            /** Materials */
            materials: components["schemas"]["TallyView"][];
            /** Quotes */
            quotes: components["schemas"]["QuoteRowView"][];
            /**
             * Reasons
             * @description that a quote can be lost for
             */
            reasons: string[];
        };
        /**
         * RanView
         * @description What the machine did one after the other, in columns of one length: `kind` as in program-time.
         */
        RanView: {
            /** Call */
            call: number[];
            /** Kind */
            kind: string[];
            /** Line */
            line: number[];
            /** Seconds */
            seconds: number[];
            /** Start */
            start: number[];
            /** Tool */
            tool: (number | null)[];
        };
        /** RateView */
        RateView: {
            /** Decided */
            decided: boolean;
            /** Label */
            label: string;
            /**
             * Name
             * @enum {string}
             */
            name: "labour_rate" | "attendance" | "programming_hours" | "programming_rate" | "inspection_seconds" | "inspection_rate" | "fixtures" | "fixture_life" | "tooling_per_piece" | "outside_per_piece" | "outside_lot" | "price_per_kg" | "kerf" | "bar_length" | "remnant" | "cut_charge" | "scrap" | "overhead" | "margin";
            /**
             * Unit
             * @enum {string}
             */
            unit: "money" | "share" | "hours" | "seconds" | "pieces" | "length";
            /** Value */
            value: string | null;
        };
        /**
         * ReadingView
         * @description A file being read in the background.
         */
        ReadingView: {
            /** Error */
            error: string;
            /** File Name */
            file_name: string;
            /** Id */
            id: string;
            /** Plan Id */
            plan_id: number | null;
            /**
             * Question
             * @description about an odd size, where the state is ask
             */
            question: string;
            /** Revision */
            revision: string;
            /** Share */
            share: number;
            /** Solids */
            solids: components["schemas"]["SolidView"][];
            /** Stage */
            stage: string;
            /**
             * State
             * @enum {string}
             */
            state: "waiting" | "reading" | "choose" | "ask" | "done" | "failed" | "cancelled";
        };
        /** ReasonView */
        ReasonView: {
            /** Count */
            count: number;
            /** Reason */
            reason: string;
        };
        /** RefusedEvent */
        RefusedEvent: {
            /** Token */
            token: string;
            /** Why */
            why: string;
        };
        /** RefusedMachine */
        RefusedMachine: {
            /** Name */
            name: string;
            /** Why */
            why: string;
        };
        /** RefusedView */
        RefusedView: {
            /** Name */
            name: string;
            /** Why */
            why: string;
        };
        /**
         * RemainderView
         * @description A piece left on the part or cut out of it; `amounts` are mm off the part's surface, on each triangle.
         */
        RemainderView: {
            /** Amount */
            amount: number;
            /** Amounts */
            amounts: number[];
            /** At */
            at: [
                number,
                number,
                number
            ];
            /** Cut Into */
            cut_into: boolean;
            /** Feature */
            feature: string;
            /** Operation */
            operation: string;
            /** Triangles */
            triangles: number[];
            /** Vertices */
            vertices: number[];
            /** Volume */
            volume: number;
        };
        /**
         * RemoveBody
         * @description Who takes a body off the finished part; empty for nobody yet.
         */
        RemoveBody: {
            /** Body */
            body: string;
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            change: "remove-body";
            /**
             * Removal
             * @enum {string}
             */
            removal: "" | "by hand" | "elsewhere";
        };
        /** RemoveEngraving */
        RemoveEngraving: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            change: "remove-engraving";
            /** Engraving */
            engraving: string;
        };
        /** RemoveHandWork */
        RemoveHandWork: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            change: "remove-hand-work";
            /** Setup */
            setup: string;
            /** Work */
            work: string;
        };
        /** RemoveSetup */
        RemoveSetup: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            change: "remove-setup";
            /** Setup */
            setup: string;
        };
        /** RestView */
        RestView: {
            /**
             * Amount
             * @description of a piece's price
             */
            amount: string;
            /**
             * Moves
             * @description what that moves a piece's price by
             */
            moves: number;
            /**
             * Part
             * @description share of the whole spread
             */
            part: number;
            /**
             * Share
             * @description by which it may be off, one standard deviation
             */
            share: number;
            /** Source */
            source: string;
            /** What */
            what: string;
        };
        /** RevisedPriceView */
        RevisedPriceView: {
            /** After */
            after: string;
            /** Before */
            before: string;
            /**
             * Lines
             * @description what each line of the cost changes by, a piece
             */
            lines: components["schemas"]["LineChange"][];
            /** Quantity */
            quantity: number;
        };
        /** RevisionForm */
        RevisionForm: {
            /**
             * File
             * Format: binary
             * @description The next revision's model
             */
            file: File;
            /** Job Id */
            job_id: number;
            /**
             * Thickness
             * @description Of flat work, mm
             * @default
             */
            thickness?: string;
        };
        /** RevisionPriceView */
        RevisionPriceView: {
            /** After */
            after: string;
            /** Before */
            before: string;
            /** Features */
            features: components["schemas"]["FeatureCostView"][];
            /** Fixtures */
            fixtures: string;
            /**
             * Line
             * @description of the journal, at which the plan last made the revision before
             */
            line: number;
            /** On Shelf */
            on_shelf: number;
            /** Once */
            once: components["schemas"]["OnceView"][];
            /** Paid Once */
            paid_once: string;
            /** Prices */
            prices: components["schemas"]["RevisedPriceView"][];
            /** Programs */
            programs: components["schemas"]["SubprogramView"][];
            /**
             * Rest
             * @description seconds that belong to no feature, before and after
             */
            rest: number[];
            /** Setups */
            setups: components["schemas"]["SetupCostView"][];
        };
        /** RevisionView */
        RevisionView: {
            /**
             * At
             * Format: date-time
             */
            at: string;
            /** Author */
            author: string;
            /** Letter */
            letter: string;
        };
        /** RuleChoice */
        RuleChoice: {
            /** By Hand */
            by_hand: boolean;
            /** Id */
            id: string;
            /** Name */
            name: string;
        };
        /**
         * RunBeside
         * @description A whole arrangement, as the search for the least cycle finds it: the carriage of each operation that is not on
         *     the first, groups at one speed, and the order of operations.
         */
        RunBeside: {
            /** At One Speed */
            at_one_speed: components["schemas"]["AtOneSpeed"][];
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            change: "run-beside";
            /** Load */
            load: string;
            /** On */
            on: [
                string,
                string
            ][];
            /** Order */
            order: string[];
        };
        /** RunTimesView */
        RunTimesView: {
            /** Machine */
            machine: string;
            /** Mean */
            mean: number;
            /**
             * Over
             * @description share of the planned seconds that the mean lies over them
             */
            over: number;
            /** Planned */
            planned: number;
            /** Program */
            program: string;
            /** Seconds */
            seconds: number[];
            /** Setup */
            setup: string;
        };
        /** RunView */
        RunView: {
            /** Cycles */
            cycles: components["schemas"]["CyclesView"][];
            /**
             * Last
             * @description pieces that are left for the last load
             */
            last: number;
            /** Loads */
            loads: number;
            /** Quantity */
            quantity: number;
            /**
             * Seconds
             * @description on the machine, loading left out
             */
            seconds: number;
        };
        /** RushView */
        RushView: {
            /**
             * A Day
             * @description hours a working day on top
             */
            a_day: number;
            /**
             * First Ready
             * Format: date
             * @description where it goes before all others
             */
            first_ready: string;
            /** Hours */
            hours: number;
            /** Possible */
            possible: boolean;
            /**
             * Price
             * @description what it adds to the price of the lot
             */
            price: string;
            /**
             * Pushed
             * @description what comes late where it goes before all others instead
             */
            pushed: components["schemas"]["PushedView"][];
            /**
             * Ready
             * Format: date
             */
            ready: string;
            /**
             * Wanted
             * Format: date
             */
            wanted: string;
        };
        /**
         * SaidView
         * @description What the planner says of a feature that the model does not.
         */
        SaidView: {
            /** Asks For */
            asks_for: string;
            /** Finish */
            finish: number | null;
            /** Note */
            note: string;
            /** Thread */
            thread: string;
            /** Tolerance */
            tolerance: string;
        };
        /**
         * SameForAlike
         * @description What was set by hand for an operation, for all operations of its sort.
         */
        SameForAlike: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            change: "same-for-alike";
            /** Operation */
            operation: string;
        };
        /**
         * SayFinish
         * @description Surface roughness Ra in µm; None takes it back.
         */
        SayFinish: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            change: "say-finish";
            /** Features */
            features: string[];
            /** Finish */
            finish: number | null;
        };
        /** SayNote */
        SayNote: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            change: "say-note";
            /** Features */
            features: string[];
            /** Note */
            note: string;
        };
        /**
         * SayThread
         * @description A thread on a turned outside, or in single holes, before that of their size.
         *
         *     "plain" is for none in them, None for what the size has.
         */
        SayThread: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            change: "say-thread";
            /** Features */
            features: string[];
            /** Thread */
            thread: string | null;
        };
        /**
         * SayTolerance
         * @description A fit such as H7 or limits such as ±0.02; None takes it back.
         */
        SayTolerance: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            change: "say-tolerance";
            /** Features */
            features: string[];
            /** Tolerance */
            tolerance: string | null;
        };
        /**
         * ScopeView
         * @description Where an operation runs in a load, and what it would save to run it once over each row.
         */
        ScopeView: {
            /**
             * Goes Round
             * @description once means round all pieces of a bar or plate, not over a row
             */
            goes_round: boolean;
            /**
             * Has To
             * @description in one bar it goes on over the next piece
             */
            has_to: boolean;
            /**
             * In Row
             * @description seconds a cycle that one run over each row changes; null where it cannot
             */
            in_row: number | null;
            /** Name */
            name: string;
            /** Operation */
            operation: string;
            /**
             * Probes
             * @description it feels the piece: it can run on the first one alone
             */
            probes: boolean;
            /**
             * Scope
             * @enum {string}
             */
            scope: "each" | "first" | "row";
            /** Setup */
            setup: string;
            /**
             * Why
             * @description why it cannot run once over a row, or through an advance
             */
            why: string;
        };
        /** ScopesView */
        ScopesView: {
            /** Load */
            load: string;
            /** Scopes */
            scopes: components["schemas"]["ScopeView"][];
        };
        /** ScrapView */
        ScrapView: {
            /** Count */
            count: number;
            /** Reason */
            reason: string;
        };
        /** SecondsView */
        SecondsView: {
            /** Category */
            category: string;
            /** Seconds */
            seconds: number;
        };
        /** SentView */
        SentView: {
            /** Runs */
            runs: components["schemas"]["RunTimesView"][];
        };
        /** SetAllowance */
        SetAllowance: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            change: "set-allowance";
            /**
             * Side
             * @enum {string}
             */
            side: "X-" | "X+" | "Y-" | "Y+" | "Z-" | "Z+";
            /** Value */
            value: number;
        };
        /**
         * SetArrangement
         * @description What is not named stays. `gap`: ("X" or "Y", mm), None for the least; `moved`: (piece, mm along X, along Y) from
         *     where the rule has it; `turned`: (piece, degrees) with what holds it, counter-clockwise seen from above. `joined`:
         *     pieces that stay in one bar, `joined_rows` of them behind one another: the stock at their ends grows to what the
         *     mill between two of them needs.
         */
        SetArrangement: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            change: "set-arrangement";
            /**
             * Columns
             * @default null
             */
            columns?: number | null;
            /**
             * Gap
             * @default []
             */
            gap?: [
                "X" | "Y",
                number | null
            ][];
            /**
             * In Turn
             * @default null
             */
            in_turn?: ("stations" | "columns" | "rows" | "sides" | "spindles") | null;
            /**
             * Joined
             * @default null
             */
            joined?: number | null;
            /**
             * Joined Rows
             * @default null
             */
            joined_rows?: number | null;
            /** Load */
            load: string;
            /**
             * Moved
             * @default []
             */
            moved?: [
                string,
                number,
                number
            ][];
            /**
             * On Bar
             * @default null
             */
            on_bar?: number | null;
            /**
             * Rows
             * @default null
             */
            rows?: number | null;
            /**
             * Sides
             * @default null
             */
            sides?: number[] | null;
            /**
             * Stations
             * @default null
             */
            stations?: number | null;
            /**
             * Turned
             * @default []
             */
            turned?: [
                string,
                0 | 90 | 180 | 270
            ][];
        };
        /**
         * SetAsideView
         * @description A row of the shop's own that cannot be used.
         */
        SetAsideView: {
            /** Key */
            key: string;
            /** What */
            what: string;
            /** Why */
            why: string;
        };
        /** SetBuy */
        SetBuy: {
            /**
             * Buy
             * @enum {string}
             */
            buy: "blank" | "bar";
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            change: "set-buy";
        };
        /**
         * SetCarriage
         * @description Which of its machine's carriages makes an operation of a load.
         */
        SetCarriage: {
            /** Carriage */
            carriage: string;
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            change: "set-carriage";
            /** Load */
            load: string;
            /** Operation */
            operation: string;
        };
        /**
         * SetCarriers
         * @description What stands between the machine's mount and the fixture, from the machine upwards.
         */
        SetCarriers: {
            /** Carriers */
            carriers: string[];
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            change: "set-carriers";
            /** Setup */
            setup: string;
        };
        /**
         * SetCell
         * @description All that is decided of a cell; `tends` names stations of each operator, or is empty where all tend all.
         */
        SetCell: {
            /** Availability */
            availability: number;
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            change: "set-cell";
            /** Operators */
            operators: number;
            /** Room */
            room: number | null;
            /** Shift Hours */
            shift_hours: number;
            /**
             * Tends
             * @default []
             */
            tends?: string[][];
            /** Walk */
            walk: number;
            /**
             * Wanted
             * @default null
             */
            wanted?: number | null;
        };
        /**
         * SetCutOff
         * @description On a lathe the piece is parted off what the chuck holds, `left` mm from its end; None takes that back.
         */
        SetCutOff: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            change: "set-cut-off";
            /** Left */
            left: number | null;
            /** Setup */
            setup: string;
        };
        /**
         * SetDepth
         * @description So many mm down from where the operation begins, or to a flat face and so far `beyond` it; neither: by rule.
         */
        SetDepth: {
            /**
             * Beyond
             * @default 0
             */
            beyond?: number;
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            change: "set-depth";
            /**
             * Depth
             * @default null
             */
            depth?: number | null;
            /**
             * Face
             * @default null
             */
            face?: number | null;
            /** Operation */
            operation: string;
        };
        /**
         * SetDialect
         * @description What a setup's program is written in; None for the usual of its machine's kind.
         */
        SetDialect: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            change: "set-dialect";
            /** Dialect */
            dialect: string | null;
            /** Setup */
            setup: string;
        };
        /** SetFixture */
        SetFixture: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            change: "set-fixture";
            /** Fixture */
            fixture: string | null;
            /** Setup */
            setup: string;
        };
        /**
         * SetForce
         * @description kN that a vise's jaws press with; None for all that it has.
         */
        SetForce: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            change: "set-force";
            /** Force */
            force: number | null;
            /** Setup */
            setup: string;
        };
        /** SetGrip */
        SetGrip: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            change: "set-grip";
            /** Grip */
            grip: number | null;
            /** Setup */
            setup: string;
        };
        /**
         * SetHold
         * @description What holds and how it is turned, in one, as it was suggested: at the usual grip and force, with no spacers.
         */
        SetHold: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            change: "set-hold";
            /** Fixture */
            fixture: string;
            /** Setup */
            setup: string;
            /**
             * Turn
             * @enum {integer}
             */
            turn: 0 | 90 | 180 | 270;
        };
        /**
         * SetIndexed
         * @description Which end of the part stands free on the rotary axis; None for a setup that is cut from one side.
         */
        SetIndexed: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            change: "set-indexed";
            /** Free */
            free: ("X-" | "X+" | "Y-" | "Y+" | "Z-" | "Z+") | null;
            /** Setup */
            setup: string;
        };
        /**
         * SetIssue
         * @description Whether programs go out as a file for each setup, or one for all setups of a machine.
         */
        SetIssue: {
            /**
             * By
             * @enum {string}
             */
            by: "setup" | "machine";
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            change: "set-issue";
        };
        /** SetMachine */
        SetMachine: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            change: "set-machine";
            /** Machine */
            machine: string;
            /** Setup */
            setup: string;
        };
        /** SetMaterial */
        SetMaterial: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            change: "set-material";
            /** Material */
            material: string;
        };
        /**
         * SetOffsets
         * @description What is not named stays; `first` "" for the control's first. `named`: (piece, word) by hand, "" by the rule.
         */
        SetOffsets: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            change: "set-offsets";
            /**
             * First
             * @default null
             */
            first?: string | null;
            /** Load */
            load: string;
            /**
             * Named
             * @default []
             */
            named?: [
                string,
                string
            ][];
            /**
             * Policy
             * @default null
             */
            policy?: ("piece" | "group" | "load") | null;
            /**
             * Reserved
             * @default null
             */
            reserved?: string[] | null;
            /**
             * Walk
             * @default null
             */
            walk?: ("rows" | "columns" | "snake") | null;
        };
        /**
         * SetOneOff
         * @description What the revision costs once: fixtures made for it, pieces of the one before that are scrap; what is not named
         *     stays.
         */
        SetOneOff: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            change: "set-one-off";
            /**
             * Fixtures
             * @default null
             */
            fixtures?: number | string | null;
            /**
             * On Shelf
             * @default null
             */
            on_shelf?: number | null;
        };
        /** SetOrder */
        SetOrder: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            change: "set-order";
            /** Order */
            order: string[];
            /** Setup */
            setup: string;
        };
        /**
         * SetPieceOrder
         * @description What is done at all pieces before the next: a tool's work, an operation, or all of one piece.
         */
        SetPieceOrder: {
            /**
             * By
             * @enum {string}
             */
            by: "tool" | "operation" | "piece";
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            change: "set-piece-order";
            /** Load */
            load: string;
        };
        /**
         * SetProbe
         * @description `what` is "zero", before the first cut, or a bore or slot that the setup makes, after its last.
         */
        SetProbe: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            change: "set-probe";
            /** On */
            on: boolean;
            /** Setup */
            setup: string;
            /** What */
            what: string;
        };
        /** SetQuantities */
        SetQuantities: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            change: "set-quantities";
            /** Quantities */
            quantities: number[];
        };
        /** SetRate */
        SetRate: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            change: "set-rate";
            /**
             * Name
             * @enum {string}
             */
            name: "labour_rate" | "attendance" | "programming_hours" | "programming_rate" | "inspection_seconds" | "inspection_rate" | "fixtures" | "fixture_life" | "tooling_per_piece" | "outside_per_piece" | "outside_lot" | "price_per_kg" | "kerf" | "bar_length" | "remnant" | "cut_charge" | "scrap" | "overhead" | "margin";
            /** Value */
            value: number | string | null;
        };
        /**
         * SetScope
         * @description Where an operation runs in a load: on each piece, on the first only, or once over each row of pieces.
         */
        SetScope: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            change: "set-scope";
            /** Load */
            load: string;
            /** Operation */
            operation: string;
            /**
             * Scope
             * @enum {string}
             */
            scope: "each" | "first" | "row";
        };
        /**
         * SetSequence
         * @description (piece, operation) of the whole cycle, each once; `found`: it came from a search, in whose words.
         */
        SetSequence: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            change: "set-sequence";
            /**
             * Found
             * @default
             */
            found?: string;
            /** Load */
            load: string;
            /** Sequence */
            sequence: [
                string,
                string
            ][];
        };
        /**
         * SetSetupCost
         * @description Machine rate, setting-up hours and load time of one setup.
         */
        SetSetupCost: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            change: "set-setup-cost";
            /**
             * Clear
             * @default []
             */
            clear?: ("machine_rate" | "hours" | "load_seconds")[];
            /**
             * Hours
             * @default null
             */
            hours?: number | string | null;
            /**
             * Load Seconds
             * @default null
             */
            load_seconds?: number | string | null;
            /**
             * Machine Rate
             * @default null
             */
            machine_rate?: number | string | null;
            /** Setup */
            setup: string;
        };
        /**
         * SetSpacer
         * @description A spacer between the walls of a slot while a vise holds them, or none.
         */
        SetSpacer: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            change: "set-spacer";
            /** Feature */
            feature: string;
            /** Setup */
            setup: string;
            /** There */
            there: boolean;
        };
        /**
         * SetStock
         * @description Only what is given changes. Sizes that are fixed begin as they are now. `stay`: sides on which the part is as
         *     large as a listed size stay as they are bought.
         */
        SetStock: {
            /**
             * Along
             * @default null
             */
            along?: ("X" | "Y" | "Z" | "by the rule") | null;
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            change: "set-stock";
            /**
             * Form
             * @default null
             */
            form?: ("block" | "plate" | "rectangular bar" | "round bar" | "hexagonal bar" | "near-net") | null;
            /**
             * Sizing
             * @default null
             */
            sizing?: ("over the part" | "next size up" | "fixed") | null;
            /**
             * Stay
             * @default false
             */
            stay?: boolean;
        };
        /**
         * SetStockSize
         * @description One of the sizes that do not follow the part, mm.
         */
        SetStockSize: {
            /**
             * Axis
             * @enum {string}
             */
            axis: "X" | "Y" | "Z";
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            change: "set-stock-size";
            /** Value */
            value: number;
        };
        /** SetThread */
        SetThread: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            change: "set-thread";
            /** Diameter */
            diameter: number;
            /**
             * Instead Of
             * @default null
             */
            instead_of?: number | null;
            /** Thread */
            thread: string | null;
        };
        /** SetTurn */
        SetTurn: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            change: "set-turn";
            /** Setup */
            setup: string;
            /** Turn */
            turn: (0 | 90 | 180 | 270) | null;
        };
        /** SetUp */
        SetUp: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            change: "set-up";
            /** Setup */
            setup: string;
            /**
             * Up
             * @enum {string}
             */
            up: "X-" | "X+" | "Y-" | "Y+" | "Z-" | "Z+";
        };
        /** SetZero */
        SetZero: {
            /**
             * Bore
             * @default
             */
            bore?: string;
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            change: "set-zero";
            /**
             * Level
             * @default top
             * @enum {string}
             */
            level?: "top" | "bottom";
            /**
             * Of
             * @enum {string}
             */
            of: "stock" | "part" | "bore" | "axis";
            /**
             * Place
             * @default centre
             * @enum {string}
             */
            place?: "centre" | "left front" | "right front" | "left back" | "right back" | "left" | "right" | "front" | "back";
            /** Setup */
            setup: string;
        };
        /**
         * SetupCostView
         * @description Before and after; None where the setup is not there.
         */
        SetupCostView: {
            /**
             * Each
             * @description at each quantity, what a piece's price changes by for setting up and running
             */
            each: string[];
            /** Hours */
            hours: (number | null)[];
            /** Seconds */
            seconds: (number | null)[];
            /** Setup */
            setup: string;
        };
        /**
         * SetupProgramView
         * @description Of a carriage of a machine that has several, run beside the others; `which` of the setup's it is, from 1.
         */
        SetupProgramView: {
            /** Calls */
            calls: components["schemas"]["CallView"][];
            /** Carriage */
            carriage: string;
            cycle: components["schemas"]["CategoryView"];
            /** Dialect */
            dialect: string;
            /** Dialect Decided */
            dialect_decided: boolean;
            /**
             * Dialects
             * @description that the machine reads, the usual one first
             */
            dialects: components["schemas"]["DialectView"][];
            /**
             * Difference
             * @description share of the ledger's cycle by which the machine takes longer
             */
            difference: number;
            /** File */
            file: string;
            /** Id */
            id: string;
            /** Machine */
            machine: string;
            /** Non Cutting */
            non_cutting: number;
            /** Offsets */
            offsets: components["schemas"]["ProgramOffsetView"][];
            ran: components["schemas"]["RanView"];
            /** Seconds */
            seconds: components["schemas"]["CategoryView"][];
            /** Setup */
            setup: string;
            /** Setups */
            setups: string[];
            /** Text */
            text: string;
            /** Tools */
            tools: components["schemas"]["ProgramToolView"][];
            /** Total */
            total: number;
            /** Troubles */
            troubles: components["schemas"]["TroubleView"][];
            /** Which */
            which: number;
        };
        /** SetupView */
        SetupView: {
            /** Above */
            above: [
                number,
                number,
                number
            ];
            /** Attached */
            attached: components["schemas"]["AttachedView"][];
            /** Back */
            back: [
                number,
                number,
                number
            ];
            /** Calls */
            calls: number;
            /** Can Cut Off */
            can_cut_off: boolean;
            /**
             * Cut Off
             * @description mm left to face where the piece is cut off its bar
             */
            cut_off: number | null;
            /**
             * Cycle
             * @description each piece's share, s
             */
            cycle: number;
            /** End Boxes */
            end_boxes: components["schemas"]["BoxView"][];
            /**
             * Engravable
             * @description the flat sides that it makes
             */
            engravable: string[];
            /**
             * Engravings
             * @description on sides that this setup makes
             */
            engravings: components["schemas"]["EngravingView"][];
            /** Entries */
            entries: components["schemas"]["EntryView"][];
            /** Features */
            features: string[];
            /** Grouped Calls */
            grouped_calls: number;
            /** Grouping Saves */
            grouping_saves: number;
            /** Hand */
            hand: components["schemas"]["HandWorkView"][];
            hold: components["schemas"]["HoldView"];
            /** Hours Decided */
            hours_decided: boolean;
            /** Id */
            id: string;
            /**
             * In Cycle
             * @description calls of a cycle, of all setups in the load
             */
            in_cycle: number;
            /**
             * In Machine
             * @description ids of the tools that stand in it, whatever job comes
             */
            in_machine: string[];
            /**
             * Leads
             * @description the first of its load
             */
            leads: boolean;
            /** Left Out */
            left_out: components["schemas"]["LeftOutView"][];
            /**
             * Lies With
             * @description setups in the same load
             */
            lies_with: string[];
            /**
             * Load
             * @description s of a cycle that loading takes
             */
            load: number;
            /**
             * Load Cycle
             * @description all pieces together, s
             */
            load_cycle: number;
            /** Load Decided */
            load_decided: boolean;
            /**
             * Load Hours
             * @description to set up the whole load
             */
            load_hours: string;
            /** Load Id */
            load_id: string;
            /** Locked */
            locked: boolean;
            /** Machine */
            machine: string;
            /** Machine Name */
            machine_name: string;
            /** Machine Rate */
            machine_rate: string;
            /**
             * Measured
             * @description what was measured on the floor in its seconds and hours
             */
            measured: components["schemas"]["FigureView"][];
            /** Order Decided */
            order_decided: boolean;
            /**
             * Pieces
             * @description of a cycle
             */
            pieces: number;
            /**
             * Probes
             * @description what a probe can feel in this setup; none on a lathe
             */
            probes: components["schemas"]["ProbeView"][];
            /**
             * Programs
             * @description of its load, one for each carriage that does something
             */
            programs: number;
            /** Rate Decided */
            rate_decided: boolean;
            /** Right */
            right: [
                number,
                number,
                number
            ];
            /**
             * Seconds
             * @description of each piece
             */
            seconds: components["schemas"]["SecondsView"][];
            /** Setup Hours */
            setup_hours: string;
            /**
             * Standing
             * @description each piece's share of what the machine stands, s
             */
            standing: number;
            /** Stock */
            stock: [
                number,
                number,
                number
            ];
            /**
             * Told
             * @description lines of the setup sheet beside holding and touching off
             */
            told: string[];
            /** Tools */
            tools: components["schemas"]["ToolLineView"][];
            /** Top Boxes */
            top_boxes: components["schemas"]["BoxView"][];
            /** Turn */
            turn: number;
            /** Turn Decided */
            turn_decided: number | null;
            /** Up */
            up: string;
            /**
             * Whole Load
             * @description seconds to load and unload all pieces of a cycle, of all its setups
             */
            whole_load: number;
            zero: components["schemas"]["ZeroView"];
        };
        /**
         * ShareSpeed
         * @description Operations of a load turn at one speed in rpm, so that they can run beside one another; None: as fast as the
         *     slowest of them goes.
         */
        ShareSpeed: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            change: "share-speed";
            /** Load */
            load: string;
            /**
             * N
             * @default null
             */
            n?: number | null;
            /** Operations */
            operations: string[];
        };
        /** SharedView */
        SharedView: {
            /** N */
            n: number;
            /** Operations */
            operations: string[];
        };
        /**
         * ShelfToolView
         * @description A tool under the columns of the tool file; what its kind does not have is empty.
         */
        ShelfToolView: {
            /**
             * Asks
             * @description what the calculator can be told for it
             */
            asks: string[];
            /**
             * Materials
             * @description that there is cutting data for
             */
            materials: string[];
            /**
             * Measures
             * @description the symbols that its kind has
             */
            measures: string[];
            /**
             * Own
             * @description the shop's own, not as it ships
             */
            own: boolean;
            /** Row */
            row: {
                [key: string]: string;
            };
            /**
             * Turns
             * @description for a lathe
             */
            turns: boolean;
        };
        /** ShelfView */
        ShelfView: {
            /** Columns */
            columns: string[];
            /** Cutting */
            cutting: components["schemas"]["CuttingRowView"][];
            /** Cutting Columns */
            cutting_columns: string[];
            /** Holders */
            holders: components["schemas"]["HolderView"][];
            /** Magazines */
            magazines: components["schemas"]["MagazineView"][];
            /** Set Aside */
            set_aside: components["schemas"]["SetAsideView"][];
            /** Tools */
            tools: components["schemas"]["ShelfToolView"][];
        };
        /** ShiftBody */
        ShiftBody: {
            /**
             * Available
             * @description A decimal number, not below 0
             */
            available: string;
            /** Days */
            days: number;
            /**
             * Hours
             * @description A decimal number, not below 0
             */
            hours: string;
            /** Machine */
            machine: string;
        };
        /**
         * ShiftStockModel
         * @description Moves the near-net stock's model on the part, mm from where its own file has it.
         */
        ShiftStockModel: {
            /**
             * Axis
             * @enum {string}
             */
            axis: "X" | "Y" | "Z";
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            change: "shift-stock-model";
            /** Value */
            value: number;
        };
        /** SideBySideView */
        SideBySideView: {
            /** Curve */
            curve: components["schemas"]["CurvePointOf"][];
            /**
             * Most
             * @description up to which number of pieces it was looked
             */
            most: number;
            /** Names */
            names: string[];
            /** Plans */
            plans: number[];
            /** Rows */
            rows: components["schemas"]["SideRow"][];
            /** Stretches */
            stretches: components["schemas"]["StretchView"][];
            /**
             * Words
             * @description who is the least up to which quantity
             */
            words: string;
        };
        /** SideRow */
        SideRow: {
            /**
             * Best
             * @description which of them have the least, where less is better
             */
            best: number[];
            /** Differs */
            differs: boolean;
            /** Group */
            group: string;
            /** Name */
            name: string;
            /**
             * Unit
             * @enum {string}
             */
            unit: "words" | "count" | "seconds" | "hours" | "machine hours" | "each";
            /**
             * Values
             * @description of each plan, numbers as such; seconds and hours in full
             */
            values: string[];
        };
        /**
         * SizeBody
         * @description One measure of a body: its length (a boss's diameter), width, height, or its place on the side.
         */
        SizeBody: {
            /** Body */
            body: string;
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            change: "size-body";
            /**
             * Measure
             * @enum {string}
             */
            measure: "length" | "width" | "height" | "u" | "v";
            /** Value */
            value: number;
        };
        /**
         * SkipPieces
         * @description Pieces whose calls are written as blocks that the control can be told to skip.
         */
        SkipPieces: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            change: "skip-pieces";
            /** Load */
            load: string;
            /** Pieces */
            pieces: string[];
        };
        /** SolidChoice */
        SolidChoice: {
            /** Solid */
            solid: number;
        };
        /** SolidView */
        SolidView: {
            /** Name */
            name: string;
            /** Size */
            size: [
                number,
                number,
                number
            ];
            /** Volume */
            volume: number;
        };
        /** SortKeyBody */
        SortKeyBody: {
            /**
             * By
             * @enum {string}
             */
            by: "tool" | "angle" | "offset" | "operation" | "piece" | "setup";
            /**
             * Values
             * @default []
             */
            values?: string[];
        };
        /**
         * SortSteps
         * @description By several keys, the first one first; what is named in `values` comes in that order.
         */
        SortSteps: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            change: "sort-steps";
            /** Keys */
            keys: components["schemas"]["SortKeyBody"][];
            /** Load */
            load: string;
        };
        /** SpanView */
        SpanView: {
            /**
             * At
             * @description the station where a person is
             */
            at: string;
            /** Doing */
            doing: string;
            /** End */
            end: number;
            /** Start */
            start: number;
        };
        /**
         * SplitOperation
         * @description An operation of a load in so many parts, 1 for the whole of it again; on a drum all is spread out anew.
         */
        SplitOperation: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            change: "split-operation";
            /** Load */
            load: string;
            /** Operation */
            operation: string;
            /** Parts */
            parts: number;
        };
        /**
         * SplitSetup
         * @description Some of a setup's features go into a new one right after it; `up` where another side is to be up.
         */
        SplitSetup: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            change: "split-setup";
            /** Features */
            features: string[];
            /** Setup */
            setup: string;
            /**
             * Up
             * @default null
             */
            up?: ("X-" | "X+" | "Y-" | "Y+" | "Z-" | "Z+") | null;
        };
        /** SplitView */
        SplitView: {
            /** Name */
            name: string;
            /** Operation */
            operation: string;
            /** Parts */
            parts: number;
        };
        /**
         * SpreadOut
         * @description Operations over the positions of a drum, so that the fullest of them, one slide after the other, is the least.
         */
        SpreadOut: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            change: "spread-out";
            /** Load */
            load: string;
        };
        /**
         * StackView
         * @description Carriers that can stand under the fixture, from the machine upwards.
         */
        StackView: {
            /** Ids */
            ids: string[];
            /** Words */
            words: string;
        };
        /**
         * Stale
         * @description A write on an edition that is no longer current: what stands now, and what happened since.
         */
        Stale: {
            /** Detail */
            detail: string;
            /**
             * Place
             * @default
             */
            place?: string;
            plan: components["schemas"]["PlanView"];
            /**
             * Request
             * @default
             */
            request?: string;
            /** Since */
            since: components["schemas"]["JournalLine"][];
            /** Status */
            status: number;
            /** Title */
            title: string;
            /** Type */
            type: string;
        };
        /**
         * StartEmpty
         * @description One setup and nothing in it but what goes with its side; all else waits to be placed by hand.
         */
        StartEmpty: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            change: "start-empty";
            /**
             * Up
             * @enum {string}
             */
            up: "X-" | "X+" | "Y-" | "Y+" | "Z-" | "Z+";
        };
        /** StationView */
        StationView: {
            /**
             * Before
             * @description pieces that lie before it at the most; none before the first
             */
            before: number | null;
            /** Cycle */
            cycle: number;
            /**
             * Each
             * @description seconds a piece that it takes alone
             */
            each: number;
            /** Id */
            id: string;
            /** Name */
            name: string;
            /** Pieces */
            pieces: number;
            /** Served */
            served: number;
        };
        /** StepView */
        StepView: {
            /** After */
            after: components["schemas"]["AfterView"][];
            /**
             * Again
             * @description why its tool is called again; empty where it is not
             */
            again: string;
            /** Angle */
            angle: number;
            /**
             * Another
             * @description id of one more tool of the kind; empty where there is none to have
             */
            another: string;
            /** Changes Tool */
            changes_tool: boolean;
            /** Name */
            name: string;
            /** Operation */
            operation: string;
            /**
             * Own
             * @description its own motion
             */
            own: number;
            /** Piece */
            piece: string;
            /**
             * Run
             * @description number of the locked run that it is in, from 1; 0 for none
             */
            run: number;
            /**
             * Section
             * @description name of the section that begins with it; empty where none does
             */
            section: string;
            /** Setup */
            setup: string;
            /** Tool */
            tool: number;
            /** Tool Name */
            tool_name: string;
            /**
             * Way
             * @description the way to it: change, index, rapids, spindle
             */
            way: number;
        };
        /**
         * StockChoiceView
         * @description What is bought; `along` is the axis of a bar's length or a plate's thickness.
         */
        StockChoiceView: {
            /**
             * Along
             * @enum {string}
             */
            along: "X" | "Y" | "Z";
            /** Along Decided */
            along_decided: boolean;
            /**
             * Form
             * @enum {string}
             */
            form: "block" | "plate" | "rectangular bar" | "round bar" | "hexagonal bar" | "near-net";
            /** Kg */
            kg: number;
            /** Named */
            named: string;
            /** Over */
            over: components["schemas"]["OverView"][];
            /** Shift */
            shift: [
                number,
                number,
                number
            ];
            /**
             * Sizing
             * @enum {string}
             */
            sizing: "over the part" | "next size up" | "fixed";
        };
        /** StockModelForm */
        StockModelForm: {
            /**
             * File
             * Format: binary
             * @description The model of a casting or forging, laid where the part lies
             */
            file: File;
        };
        /**
         * StockSolidView
         * @description Flat lists, three numbers a vertex and three a triangle.
         */
        StockSolidView: {
            /** Triangles */
            triangles: number[];
            /** Vertices */
            vertices: number[];
        };
        /**
         * StockStepView
         * @description After an operation: mm³ that the stock has left, its kg, and mm³ that the operation took off.
         *
         *     `rate` is the greatest mm³/min that a mill took, `stated` what its operation says; 0 for other tools.
         */
        StockStepView: {
            /** Kg */
            kg: number;
            /** Name */
            name: string;
            /** Operation */
            operation: string;
            /** Rate */
            rate: number;
            /** Removed */
            removed: number;
            /** Setup */
            setup: string;
            /** Stated */
            stated: number;
            /** Volume */
            volume: number;
        };
        /**
         * StockView
         * @description The stock's way through the operations, which ends larger than the part by `over_share` of it.
         *
         *     `unknown` says why it could not be followed.
         */
        StockView: {
            /** Kg */
            kg: number;
            /** Over Share */
            over_share: number;
            /** Part */
            part: number;
            /** Remainders */
            remainders: components["schemas"]["RemainderView"][];
            /** Start */
            start: number;
            /** Steps */
            steps: components["schemas"]["StockStepView"][];
            /** Unknown */
            unknown: string;
        };
        /**
         * StrategyView
         * @description A way of roughing that was tried, and the seconds of its own path.
         */
        StrategyView: {
            /** Seconds */
            seconds: number;
            /**
             * Strategy
             * @enum {string}
             */
            strategy: "in steps" | "constant engagement" | "in a helix" | "in rows" | "in levels";
        };
        /**
         * StretchView
         * @description From one number of pieces to another the least is one of these plans (their places).
         */
        StretchView: {
            /** First */
            first: number;
            /** Last */
            last: number;
            /** Least */
            least: number[];
        };
        /** Strip */
        Strip: {
            /** Cycle */
            cycle: number;
            /** Each */
            each: string;
            /** Errors */
            errors: number;
            last: components["schemas"]["EffectView"] | null;
            /** Per Piece */
            per_piece: number;
            /** Quantity */
            quantity: number;
            /** Seconds */
            seconds: components["schemas"]["SecondsView"][];
            /** Setup Hours */
            setup_hours: string;
            /** Warnings */
            warnings: number;
        };
        /**
         * SubprogramView
         * @description same: to the byte; renumbered: every move is the same, its number is another.
         */
        SubprogramView: {
            /** Name */
            name: string;
            /** Number */
            number: number;
            /** Operation */
            operation: string;
            /** Program */
            program: string;
            /**
             * Stays
             * @enum {string}
             */
            stays: "same" | "renumbered" | "changed" | "new" | "gone";
        };
        /**
         * SureView
         * @description In two of three times a price each lies from low to high.
         */
        SureView: {
            /** High */
            high: string;
            /** Low */
            low: string;
            /** Quantity */
            quantity: number;
            /**
             * Rests
             * @description what the price rests on, what moves it most first
             */
            rests: components["schemas"]["RestView"][];
            /** Words */
            words: string;
        };
        /** TakeIn */
        TakeIn: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            change: "take-in";
            /** Features */
            features: string[];
        };
        /**
         * TakeOut
         * @description An operation that does not run for now; it stays, marked, and the sheet says so.
         */
        TakeOut: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            change: "take-out";
            /** Load */
            load: string;
            /** Operation */
            operation: string;
            /**
             * Out
             * @default true
             */
            out?: boolean;
        };
        /**
         * TakeRevision
         * @description The plan makes another revision from now on; decisions stay on what is matched, and what was set for several
         *     features on those of them that are left.
         */
        TakeRevision: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            change: "take-revision";
            /** Revision */
            revision: string;
        };
        /**
         * TakeStockModel
         * @description Near-net stock: the key of a model that was brought in, laid on the part as it counts.
         */
        TakeStockModel: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            change: "take-stock-model";
            /** Model */
            model: string;
        };
        /**
         * TakeValues
         * @description Values for several operations at once, each as in edit-operation: those that were used the last time.
         */
        TakeValues: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            change: "take-values";
            /** Edits */
            edits: components["schemas"]["EditOperation"][];
        };
        /** TallyView */
        TallyView: {
            /** Lost */
            lost: number;
            /** Margin */
            margin: number | null;
            /** Name */
            name: string;
            /** Open */
            open: number;
            /** Ordered */
            ordered: string;
            /** Rate */
            rate: number | null;
            /** Won */
            won: number;
        };
        /**
         * TermsBody
         * @description The shop's own words on quotes.
         */
        TermsBody: {
            /** Address */
            address: string[];
            /** Contact */
            contact: string;
            /** Currency */
            currency: string;
            /** Delivery */
            delivery: string;
            /**
             * Minimum Lot
             * @description A decimal number
             */
            minimum_lot: string;
            /** Name */
            name: string;
            /** Not Included */
            not_included: string[];
            /** Payment */
            payment: string;
            /** Rates */
            rates: [
                string,
                string
            ][];
            /**
             * Step
             * @description A decimal number
             */
            step: string;
            /** Valid Days */
            valid_days: number;
        };
        /** ThreadChoice */
        ThreadChoice: {
            /** Major */
            major: number;
            /** Name */
            name: string;
            /** Pitch */
            pitch: number;
            /** Series */
            series: string;
            /** Tap Drill */
            tap_drill: number;
        };
        /**
         * TimesView
         * @description What each change costs on the load's machine.
         */
        TimesView: {
            /** Index */
            index: number;
            /** Per Degree */
            per_degree: number;
            /** Piece */
            piece: number;
            /** Tool Change */
            tool_change: number;
        };
        /** ToolLineView */
        ToolLineView: {
            /** Description */
            description: string;
            /** Minutes */
            minutes: number;
            /** Number */
            number: number;
            /** Stick Out */
            stick_out: number;
            /**
             * Where
             * @description in the machine, or to set up
             */
            where: string;
        };
        /**
         * ToolRowBody
         * @description One tool under the columns of the tool file.
         */
        ToolRowBody: {
            /** Row */
            row: {
                [key: string]: unknown;
            };
        };
        /**
         * ToolRunView
         * @description Steps of one tool one behind the other.
         */
        ToolRunView: {
            /**
             * Change
             * @description seconds of the way to it
             */
            change: number;
            /** Name */
            name: string;
            /** Seconds */
            seconds: number;
            /** Start */
            start: number;
            /** Tool */
            tool: number;
        };
        /** ToolUseView */
        ToolUseView: {
            /** Batches */
            batches: components["schemas"]["BatchView"][];
            /** Cost */
            cost: number;
            /** Life */
            life: number;
            /** Minutes */
            minutes: number;
            /**
             * Pieces
             * @description that one tool makes; null where it is not worn
             */
            pieces: number | null;
            /** Price */
            price: string;
            tool: components["schemas"]["ToolView"];
            /**
             * Where
             * @description in the machine, or to set up
             */
            where: string;
            /** Work */
            work: components["schemas"]["ToolWorkView"][];
        };
        /** ToolUsesView */
        ToolUsesView: {
            /**
             * Missing
             * @description tools that operations ask for and the shop does not have, in words
             */
            missing: string[];
            /** Tools */
            tools: components["schemas"]["ToolUseView"][];
        };
        /** ToolView */
        ToolView: {
            /** Cutting Length */
            cutting_length: number;
            /** Description */
            description: string;
            /** Diameter */
            diameter: number;
            /** Flutes */
            flutes: number;
            /** Id */
            id: string;
            /** Kind */
            kind: string;
            /** Number */
            number: number;
            /** Reach */
            reach: number;
        };
        /**
         * ToolWayView
         * @description `points` are three numbers each. `outlines` are (across, along) from the tip, of a body that turns about `up`, or
         *     where `turned`, of a flat tool that lies along `right` and `up`.
         */
        ToolWayView: {
            /** Outlines */
            outlines: [
                number,
                number
            ][][];
            /** Points */
            points: number[];
            /** Rapid */
            rapid: boolean[];
            /** Right */
            right: [
                number,
                number,
                number
            ];
            /** Times */
            times: number[];
            /** Turned */
            turned: boolean;
            /** Up */
            up: [
                number,
                number,
                number
            ];
        };
        /**
         * ToolWorkView
         * @description An operation as its tool feels it; `seconds` in cut.
         */
        ToolWorkView: {
            /** Feed */
            feed: number;
            /** Life */
            life: number;
            load: components["schemas"]["LoadView"];
            /** Name */
            name: string;
            /** Operation */
            operation: string;
            /** Seconds */
            seconds: number;
            /** Setup */
            setup: string;
            /** Speed */
            speed: number;
        };
        /** ToolsForm */
        ToolsForm: {
            /**
             * File
             * Format: binary
             * @description Tools, or cutting data, as CSV or JSON
             */
            file: File;
        };
        /**
         * TrialMetView
         * @description What the program runs into; the place is in the axes of the setup, or of the part where it is cut into.
         */
        TrialMetView: {
            /** Amount */
            amount: number;
            /** How */
            how: string;
            /** Line */
            line: number;
            /** Path */
            path: string;
            /** Tool */
            tool: number;
            /** What */
            what: string;
        };
        /** TrialUseView */
        TrialUseView: {
            /** Description */
            description: string;
            /** Line */
            line: number;
            /**
             * Path
             * @description the carriage whose program it is, where the machine has several
             */
            path: string;
            /**
             * Removed
             * @description mm³
             */
            removed: number;
            /** Seconds */
            seconds: number;
            /** Tool */
            tool: number;
        };
        /** TrialView */
        TrialView: {
            /** Met */
            met: components["schemas"]["TrialMetView"][];
            /**
             * Planned
             * @description mm³ that the plan's own operations of the setup take off
             */
            planned: number;
            /** Removed */
            removed: number;
            /** Seconds */
            seconds: number;
            /** Setup */
            setup: string;
            /** Troubles */
            troubles: components["schemas"]["TroubleView"][];
            /** Uses */
            uses: components["schemas"]["TrialUseView"][];
            /** Which */
            which: string;
        };
        /** TroubleView */
        TroubleView: {
            /** Code */
            code: string;
            /** Line */
            line: number;
            /** Operation */
            operation: string;
            /** Title */
            title: string;
            /** Why */
            why: string;
        };
        /**
         * TurnView
         * @description A quarter turn and the sides of the part that it names: against the fixed jaw, on what it rests on.
         */
        TurnView: {
            /** Turn */
            turn: number;
            /** Words */
            words: string;
        };
        /**
         * WayAroundView
         * @description A way not to call a tool again. Take its changes one after the other.
         */
        WayAroundView: {
            /**
             * Calls
             * @description of tools in the load's cycle with it
             */
            calls: number;
            /** Changes */
            changes: components["schemas"]["ChangeBody"][];
            /**
             * Each
             * @description money a piece
             */
            each: string;
            /**
             * Saving
             * @description seconds a piece
             */
            saving: number;
            /** Title */
            title: string;
        };
        /**
         * WayView
         * @description A direction that the tool comes from; what the rotary and the tilt stand at, degrees.
         */
        WayView: {
            /** Angle */
            angle: number;
            /** Side */
            side: string;
            /** Tilt */
            tilt: number;
        };
        /** WaysAroundView */
        WaysAroundView: {
            /** Ways */
            ways: components["schemas"]["WayAroundView"][];
        };
        /** WeekView */
        WeekView: {
            /** Booked */
            booked: number;
            /** Hours */
            hours: number;
            /** Jobs */
            jobs: components["schemas"]["JobHours"][];
            /**
             * Monday
             * Format: date
             */
            monday: string;
        };
        /** WordView */
        WordView: {
            /** Label */
            label: string;
            /** Words */
            words: string;
        };
        /**
         * WorkView
         * @description Work under way beside the requests. Ask its own address until it has ended, then the one that was asked again.
         */
        WorkView: {
            /** Id */
            id: string;
            /**
             * Place
             * @description in line; 0 once it has begun
             */
            place: number;
            /** Share */
            share: number;
            /** Stage */
            stage: string;
            /**
             * State
             * @enum {string}
             */
            state: "waiting" | "working" | "done" | "failed" | "cancelled";
            /** Title */
            title: string;
        };
        /** WorthView */
        WorthView: {
            change: components["schemas"]["ChangeBody"];
            cheapest: components["schemas"]["CheapestView"] | null;
            /** Each */
            each: string;
            /** Life After */
            life_after: number | null;
            /** Life Before */
            life_before: number | null;
            /** Operation */
            operation: string;
            /** Saving */
            saving: number;
            /** Seconds */
            seconds: number;
            /** Setup */
            setup: string;
            /** Stop */
            stop: string;
            /** Title */
            title: string;
        };
        /** WorthsView */
        WorthsView: {
            /** Entries */
            entries: components["schemas"]["WorthView"][];
        };
        /** ZeroByRule */
        ZeroByRule: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            change: "zero-by-rule";
            /** Setup */
            setup: string;
        };
        /**
         * ZeroChoice
         * @description A place for the zero, seen from above in the setup's axes.
         */
        ZeroChoice: {
            /** Bore */
            bore: string;
            /**
             * Of
             * @enum {string}
             */
            of: "stock" | "part" | "bore" | "axis";
            /**
             * Place
             * @enum {string}
             */
            place: "centre" | "left front" | "right front" | "left back" | "right back" | "left" | "right" | "front" | "back";
            /** Words */
            words: string;
            /** X */
            x: number;
            /** Y */
            y: number;
        };
        /**
         * ZeroView
         * @description `least` are the lowest X and Y of the stock from there; `why` says what speaks for the `proposed` one.
         */
        ZeroView: {
            /** Bore */
            bore: string;
            /** By Rule */
            by_rule: boolean;
            /** Choices */
            choices: components["schemas"]["ZeroChoice"][];
            /** Coordinates */
            coordinates: components["schemas"]["CoordinatesView"][];
            /** Least */
            least: [
                number,
                number
            ];
            /**
             * Level
             * @enum {string}
             */
            level: "top" | "bottom";
            /**
             * Of
             * @enum {string}
             */
            of: "stock" | "part" | "bore" | "axis";
            /**
             * Place
             * @enum {string}
             */
            place: "centre" | "left front" | "right front" | "left back" | "right back" | "left" | "right" | "front" | "back";
            /** Point */
            point: [
                number,
                number,
                number
            ];
            /** Proposed */
            proposed: string;
            /** Touch Off */
            touch_off: string[];
            /** Why */
            why: string;
            /** Words */
            words: string;
        };
    };
    responses: {
        /** @description the request cannot be read */
        Http400: {
            headers: {
                [name: string]: unknown;
            };
            content: {
                "application/problem+json": components["schemas"]["Problem"];
            };
        };
        /** @description from a foreign page, or not marked with X-Requested-With: lean-ledger */
        Http403: {
            headers: {
                [name: string]: unknown;
            };
            content: {
                "application/problem+json": components["schemas"]["Problem"];
            };
        };
        /** @description another method is answered here */
        Http405: {
            headers: {
                [name: string]: unknown;
            };
            content: {
                "application/problem+json": components["schemas"]["Problem"];
            };
        };
        /** @description the body is too large */
        Http413: {
            headers: {
                [name: string]: unknown;
            };
            content: {
                "application/problem+json": components["schemas"]["Problem"];
            };
        };
        /** @description the address is too long */
        Http414: {
            headers: {
                [name: string]: unknown;
            };
            content: {
                "application/problem+json": components["schemas"]["Problem"];
            };
        };
        /** @description the body is of a kind that is not read here */
        Http415: {
            headers: {
                [name: string]: unknown;
            };
            content: {
                "application/problem+json": components["schemas"]["Problem"];
            };
        };
        /** @description this server does not answer under that host name */
        Http421: {
            headers: {
                [name: string]: unknown;
            };
            content: {
                "application/problem+json": components["schemas"]["Problem"];
            };
        };
        /** @description something went wrong here; nothing was changed */
        Http500: {
            headers: {
                [name: string]: unknown;
            };
            content: {
                "application/problem+json": components["schemas"]["Problem"];
            };
        };
        /** @description the database is held by another program */
        Http503: {
            headers: {
                [name: string]: unknown;
            };
            content: {
                "application/problem+json": components["schemas"]["Problem"];
            };
        };
        /** @description the disk is full */
        Http507: {
            headers: {
                [name: string]: unknown;
            };
            content: {
                "application/problem+json": components["schemas"]["Problem"];
            };
        };
    };
    parameters: {
        /** @description Says that it is no form of a foreign page. */
        Mark: "lean-ledger";
    };
    requestBodies: never;
    headers: never;
    pathItems: never;
}
export type $defs = Record<string, never>;
export interface operations {
    capacity_capacity_capacity_get: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description OK */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["CapacityView"];
                };
            };
            400: components["responses"]["Http400"];
            403: components["responses"]["Http403"];
            /** @description Not Found */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            405: components["responses"]["Http405"];
            414: components["responses"]["Http414"];
            415: components["responses"]["Http415"];
            421: components["responses"]["Http421"];
            /** @description Unprocessable Entity */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            500: components["responses"]["Http500"];
            503: components["responses"]["Http503"];
            507: components["responses"]["Http507"];
        };
    };
    capacity_change_hours_capacity_put: {
        parameters: {
            query?: never;
            header: {
                /** @description Says that it is no form of a foreign page. */
                "X-Requested-With": components["parameters"]["Mark"];
            };
            path?: never;
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["HoursBody"];
            };
        };
        responses: {
            /** @description OK */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["CapacityView"];
                };
            };
            400: components["responses"]["Http400"];
            403: components["responses"]["Http403"];
            /** @description Not Found */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            405: components["responses"]["Http405"];
            413: components["responses"]["Http413"];
            414: components["responses"]["Http414"];
            415: components["responses"]["Http415"];
            421: components["responses"]["Http421"];
            /** @description Unprocessable Entity */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            500: components["responses"]["Http500"];
            503: components["responses"]["Http503"];
            507: components["responses"]["Http507"];
        };
    };
    quotes_customers_customers_get: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description OK */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["CustomersView"];
                };
            };
            400: components["responses"]["Http400"];
            403: components["responses"]["Http403"];
            405: components["responses"]["Http405"];
            414: components["responses"]["Http414"];
            415: components["responses"]["Http415"];
            421: components["responses"]["Http421"];
            /** @description Unprocessable Entity */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"][];
                };
            };
            500: components["responses"]["Http500"];
            503: components["responses"]["Http503"];
            507: components["responses"]["Http507"];
        };
    };
    quotes_add_customer_customers_post: {
        parameters: {
            query?: never;
            header: {
                /** @description Says that it is no form of a foreign page. */
                "X-Requested-With": components["parameters"]["Mark"];
            };
            path?: never;
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["CustomerBody"];
            };
        };
        responses: {
            /** @description OK */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["CustomersView"];
                };
            };
            400: components["responses"]["Http400"];
            403: components["responses"]["Http403"];
            /** @description Not Found */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            405: components["responses"]["Http405"];
            413: components["responses"]["Http413"];
            414: components["responses"]["Http414"];
            415: components["responses"]["Http415"];
            421: components["responses"]["Http421"];
            /** @description Unprocessable Entity */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            500: components["responses"]["Http500"];
            503: components["responses"]["Http503"];
            507: components["responses"]["Http507"];
        };
    };
    quotes_change_customer_customers__int_customer_id__put: {
        parameters: {
            query?: never;
            header: {
                /** @description Says that it is no form of a foreign page. */
                "X-Requested-With": components["parameters"]["Mark"];
            };
            path: {
                customer_id: number;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["CustomerBody"];
            };
        };
        responses: {
            /** @description OK */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["CustomersView"];
                };
            };
            400: components["responses"]["Http400"];
            403: components["responses"]["Http403"];
            /** @description Not Found */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            405: components["responses"]["Http405"];
            413: components["responses"]["Http413"];
            414: components["responses"]["Http414"];
            415: components["responses"]["Http415"];
            421: components["responses"]["Http421"];
            /** @description Unprocessable Entity */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            500: components["responses"]["Http500"];
            503: components["responses"]["Http503"];
            507: components["responses"]["Http507"];
        };
    };
    floor_photo_floor__int_plan_id__photos__hash__get: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                plan_id: number;
                hash: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description the photo */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "image/jpeg": File;
                };
            };
            400: components["responses"]["Http400"];
            403: components["responses"]["Http403"];
            /** @description Not Found */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            405: components["responses"]["Http405"];
            414: components["responses"]["Http414"];
            415: components["responses"]["Http415"];
            421: components["responses"]["Http421"];
            /** @description Unprocessable Entity */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            500: components["responses"]["Http500"];
            503: components["responses"]["Http503"];
            507: components["responses"]["Http507"];
        };
    };
    floor_at_machine_floor__int_plan_id___setup__get: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                plan_id: number;
                setup: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description OK */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["FloorView"];
                };
            };
            400: components["responses"]["Http400"];
            403: components["responses"]["Http403"];
            /** @description Not Found */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            405: components["responses"]["Http405"];
            414: components["responses"]["Http414"];
            415: components["responses"]["Http415"];
            421: components["responses"]["Http421"];
            /** @description Unprocessable Entity */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            500: components["responses"]["Http500"];
            503: components["responses"]["Http503"];
            507: components["responses"]["Http507"];
        };
    };
    floor_take_events_floor__int_plan_id___setup__events_post: {
        parameters: {
            query?: never;
            header: {
                /** @description Says that it is no form of a foreign page. */
                "X-Requested-With": components["parameters"]["Mark"];
            };
            path: {
                plan_id: number;
                setup: string;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["EventsBody"];
            };
        };
        responses: {
            /** @description OK */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["EventsTaken"];
                };
            };
            400: components["responses"]["Http400"];
            403: components["responses"]["Http403"];
            /** @description Not Found */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            405: components["responses"]["Http405"];
            413: components["responses"]["Http413"];
            414: components["responses"]["Http414"];
            415: components["responses"]["Http415"];
            421: components["responses"]["Http421"];
            /** @description Unprocessable Entity */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            500: components["responses"]["Http500"];
            503: components["responses"]["Http503"];
            507: components["responses"]["Http507"];
        };
    };
    jobs_list_jobs_get: {
        parameters: {
            query?: {
                search?: string;
                status?: string;
                customer?: string;
                due_from?: string | null;
                due_to?: string | null;
                sort?: "added" | "number" | "customer" | "due" | "status" | "material" | "cycle" | "each" | "findings";
                down?: boolean;
                page?: number;
                size?: number;
            };
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description OK */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["JobList"];
                };
            };
            400: components["responses"]["Http400"];
            403: components["responses"]["Http403"];
            405: components["responses"]["Http405"];
            414: components["responses"]["Http414"];
            415: components["responses"]["Http415"];
            421: components["responses"]["Http421"];
            /** @description Unprocessable Entity */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            500: components["responses"]["Http500"];
            503: components["responses"]["Http503"];
            507: components["responses"]["Http507"];
        };
    };
    jobs_add_job_post: {
        parameters: {
            query?: never;
            header: {
                /** @description Says that it is no form of a foreign page. */
                "X-Requested-With": components["parameters"]["Mark"];
            };
            path?: never;
            cookie?: never;
        };
        requestBody: {
            content: {
                "multipart/form-data": components["schemas"]["JobForm"];
            };
        };
        responses: {
            /** @description Created */
            201: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Created"];
                };
            };
            400: components["responses"]["Http400"];
            403: components["responses"]["Http403"];
            405: components["responses"]["Http405"];
            /** @description Request Entity Too Large */
            413: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            414: components["responses"]["Http414"];
            415: components["responses"]["Http415"];
            421: components["responses"]["Http421"];
            /** @description Unprocessable Entity */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            500: components["responses"]["Http500"];
            503: components["responses"]["Http503"];
            507: components["responses"]["Http507"];
        };
    };
    jobs_picture_pictures__file___int_solid__get: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                file: string;
                solid: number;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description the drawing */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "image/svg+xml": string;
                };
            };
            400: components["responses"]["Http400"];
            403: components["responses"]["Http403"];
            /** @description Not Found */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            405: components["responses"]["Http405"];
            414: components["responses"]["Http414"];
            415: components["responses"]["Http415"];
            421: components["responses"]["Http421"];
            /** @description Unprocessable Entity */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"][];
                };
            };
            500: components["responses"]["Http500"];
            503: components["responses"]["Http503"];
            507: components["responses"]["Http507"];
        };
    };
    jobs_edit_job__int_job_id__patch: {
        parameters: {
            query?: never;
            header: {
                /** @description Says that it is no form of a foreign page. */
                "X-Requested-With": components["parameters"]["Mark"];
            };
            path: {
                job_id: number;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["JobEdit"];
            };
        };
        responses: {
            /** @description No Content */
            204: {
                headers: {
                    [name: string]: unknown;
                };
                content?: never;
            };
            400: components["responses"]["Http400"];
            403: components["responses"]["Http403"];
            /** @description Not Found */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            405: components["responses"]["Http405"];
            413: components["responses"]["Http413"];
            414: components["responses"]["Http414"];
            415: components["responses"]["Http415"];
            421: components["responses"]["Http421"];
            /** @description Unprocessable Entity */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            500: components["responses"]["Http500"];
            503: components["responses"]["Http503"];
            507: components["responses"]["Http507"];
        };
    };
    library_get_library_get: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description OK */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["LibraryView"];
                };
            };
            400: components["responses"]["Http400"];
            403: components["responses"]["Http403"];
            405: components["responses"]["Http405"];
            414: components["responses"]["Http414"];
            415: components["responses"]["Http415"];
            421: components["responses"]["Http421"];
            /** @description Unprocessable Entity */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"][];
                };
            };
            500: components["responses"]["Http500"];
            503: components["responses"]["Http503"];
            507: components["responses"]["Http507"];
        };
    };
    plans_get_plan__int_plan_id__get: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                plan_id: number;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description OK */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["PlanView"];
                };
            };
            /** @description Not Modified */
            304: {
                headers: {
                    [name: string]: unknown;
                };
                content?: never;
            };
            400: components["responses"]["Http400"];
            403: components["responses"]["Http403"];
            /** @description Not Found */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            405: components["responses"]["Http405"];
            414: components["responses"]["Http414"];
            415: components["responses"]["Http415"];
            421: components["responses"]["Http421"];
            /** @description Unprocessable Entity */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"][];
                };
            };
            500: components["responses"]["Http500"];
            503: components["responses"]["Http503"];
            507: components["responses"]["Http507"];
        };
    };
    alternatives_alternatives__int_plan_id__alternatives_get: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                plan_id: number;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description OK */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["AlternativesView"];
                };
            };
            400: components["responses"]["Http400"];
            403: components["responses"]["Http403"];
            /** @description Not Found */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            405: components["responses"]["Http405"];
            414: components["responses"]["Http414"];
            415: components["responses"]["Http415"];
            421: components["responses"]["Http421"];
            /** @description Unprocessable Entity */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"][];
                };
            };
            500: components["responses"]["Http500"];
            503: components["responses"]["Http503"];
            507: components["responses"]["Http507"];
        };
    };
    alternatives_add_alternative__int_plan_id__alternatives_post: {
        parameters: {
            query?: never;
            header: {
                /** @description Says that it is no form of a foreign page. */
                "X-Requested-With": components["parameters"]["Mark"];
            };
            path: {
                plan_id: number;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["NewAlternative"];
            };
        };
        responses: {
            /** @description Created */
            201: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Created"];
                };
            };
            400: components["responses"]["Http400"];
            403: components["responses"]["Http403"];
            /** @description Not Found */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            405: components["responses"]["Http405"];
            413: components["responses"]["Http413"];
            414: components["responses"]["Http414"];
            415: components["responses"]["Http415"];
            421: components["responses"]["Http421"];
            /** @description Unprocessable Entity */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            500: components["responses"]["Http500"];
            503: components["responses"]["Http503"];
            507: components["responses"]["Http507"];
        };
    };
    alternatives_edit_alternative__int_plan_id__alternatives_patch: {
        parameters: {
            query?: never;
            header: {
                /** @description Says that it is no form of a foreign page. */
                "X-Requested-With": components["parameters"]["Mark"];
            };
            path: {
                plan_id: number;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["AlternativeEdit"];
            };
        };
        responses: {
            /** @description OK */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["AlternativesView"];
                };
            };
            400: components["responses"]["Http400"];
            403: components["responses"]["Http403"];
            /** @description Not Found */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            405: components["responses"]["Http405"];
            413: components["responses"]["Http413"];
            414: components["responses"]["Http414"];
            415: components["responses"]["Http415"];
            421: components["responses"]["Http421"];
            /** @description Unprocessable Entity */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            500: components["responses"]["Http500"];
            503: components["responses"]["Http503"];
            507: components["responses"]["Http507"];
        };
    };
    alternatives_choose__int_plan_id__alternatives_choice_post: {
        parameters: {
            query?: never;
            header: {
                /** @description Says that it is no form of a foreign page. */
                "X-Requested-With": components["parameters"]["Mark"];
            };
            path: {
                plan_id: number;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description OK */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["AlternativesView"];
                };
            };
            400: components["responses"]["Http400"];
            403: components["responses"]["Http403"];
            /** @description Not Found */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            405: components["responses"]["Http405"];
            414: components["responses"]["Http414"];
            415: components["responses"]["Http415"];
            421: components["responses"]["Http421"];
            /** @description Unprocessable Entity */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"][];
                };
            };
            500: components["responses"]["Http500"];
            503: components["responses"]["Http503"];
            507: components["responses"]["Http507"];
        };
    };
    alternatives_side_by_side__int_plan_id__alternatives_compared_get: {
        parameters: {
            query: {
                /** @description ids of 2 to 5 plans of the job, with commas */
                plans: string;
            };
            header?: never;
            path: {
                plan_id: number;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description OK */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["SideBySideView"];
                };
            };
            /** @description Accepted */
            202: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["WorkView"];
                };
            };
            400: components["responses"]["Http400"];
            403: components["responses"]["Http403"];
            /** @description Not Found */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            405: components["responses"]["Http405"];
            414: components["responses"]["Http414"];
            415: components["responses"]["Http415"];
            421: components["responses"]["Http421"];
            /** @description Unprocessable Entity */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            500: components["responses"]["Http500"];
            503: components["responses"]["Http503"];
            507: components["responses"]["Http507"];
        };
    };
    alternatives_combinations__int_plan_id__alternatives_grid_get: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                plan_id: number;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description OK */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["GridView"];
                };
            };
            /** @description Accepted */
            202: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["WorkView"];
                };
            };
            400: components["responses"]["Http400"];
            403: components["responses"]["Http403"];
            /** @description Not Found */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            405: components["responses"]["Http405"];
            414: components["responses"]["Http414"];
            415: components["responses"]["Http415"];
            421: components["responses"]["Http421"];
            /** @description Unprocessable Entity */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            500: components["responses"]["Http500"];
            503: components["responses"]["Http503"];
            507: components["responses"]["Http507"];
        };
    };
    balance_balance__int_plan_id__balance_get: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                plan_id: number;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description OK */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["BalanceView"];
                };
            };
            400: components["responses"]["Http400"];
            403: components["responses"]["Http403"];
            /** @description Not Found */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            405: components["responses"]["Http405"];
            414: components["responses"]["Http414"];
            415: components["responses"]["Http415"];
            421: components["responses"]["Http421"];
            /** @description Unprocessable Entity */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            500: components["responses"]["Http500"];
            503: components["responses"]["Http503"];
            507: components["responses"]["Http507"];
        };
    };
    balance_ends__int_plan_id__balance_both_ends_get: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                plan_id: number;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description OK */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["BothEndsOffersView"];
                };
            };
            /** @description Accepted */
            202: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["WorkView"];
                };
            };
            400: components["responses"]["Http400"];
            403: components["responses"]["Http403"];
            /** @description Not Found */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            405: components["responses"]["Http405"];
            414: components["responses"]["Http414"];
            415: components["responses"]["Http415"];
            421: components["responses"]["Http421"];
            /** @description Unprocessable Entity */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            500: components["responses"]["Http500"];
            503: components["responses"]["Http503"];
            507: components["responses"]["Http507"];
        };
    };
    balance_cell__int_plan_id__balance_cell_get: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                plan_id: number;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description OK */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["CellView"];
                };
            };
            400: components["responses"]["Http400"];
            403: components["responses"]["Http403"];
            /** @description Not Found */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            405: components["responses"]["Http405"];
            414: components["responses"]["Http414"];
            415: components["responses"]["Http415"];
            421: components["responses"]["Http421"];
            /** @description Unprocessable Entity */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            500: components["responses"]["Http500"];
            503: components["responses"]["Http503"];
            507: components["responses"]["Http507"];
        };
    };
    balance_best__int_plan_id__balance__load__best_get: {
        parameters: {
            query?: {
                seconds?: number;
            };
            header?: never;
            path: {
                plan_id: number;
                load: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description OK */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["FoundCycleView"];
                };
            };
            /** @description Accepted */
            202: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["WorkView"];
                };
            };
            400: components["responses"]["Http400"];
            403: components["responses"]["Http403"];
            /** @description Not Found */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            405: components["responses"]["Http405"];
            414: components["responses"]["Http414"];
            415: components["responses"]["Http415"];
            421: components["responses"]["Http421"];
            /** @description Unprocessable Entity */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            500: components["responses"]["Http500"];
            503: components["responses"]["Http503"];
            507: components["responses"]["Http507"];
        };
    };
    balance_gains__int_plan_id__balance__load__gains_get: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                plan_id: number;
                load: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description OK */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["GainsView"];
                };
            };
            /** @description Accepted */
            202: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["WorkView"];
                };
            };
            400: components["responses"]["Http400"];
            403: components["responses"]["Http403"];
            /** @description Not Found */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            405: components["responses"]["Http405"];
            414: components["responses"]["Http414"];
            415: components["responses"]["Http415"];
            421: components["responses"]["Http421"];
            /** @description Unprocessable Entity */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            500: components["responses"]["Http500"];
            503: components["responses"]["Http503"];
            507: components["responses"]["Http507"];
        };
    };
    plans_begin_again__int_plan_id__begin_again_post: {
        parameters: {
            query?: never;
            header: {
                /** @description The plan's edition, as its ETag */
                "If-Match": string;
                /** @description Says that it is no form of a foreign page. */
                "X-Requested-With": components["parameters"]["Mark"];
            };
            path: {
                plan_id: number;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["BeginAgainBody"];
            };
        };
        responses: {
            /** @description OK */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["PlanView"];
                };
            };
            400: components["responses"]["Http400"];
            403: components["responses"]["Http403"];
            /** @description Not Found */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            405: components["responses"]["Http405"];
            /** @description Conflict */
            409: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Stale"];
                };
            };
            413: components["responses"]["Http413"];
            414: components["responses"]["Http414"];
            415: components["responses"]["Http415"];
            421: components["responses"]["Http421"];
            /** @description Unprocessable Entity */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            500: components["responses"]["Http500"];
            503: components["responses"]["Http503"];
            507: components["responses"]["Http507"];
        };
    };
    plans_begun_anew__int_plan_id__beginnings_get: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                plan_id: number;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description OK */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["BeginningsView"];
                };
            };
            /** @description Accepted */
            202: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["WorkView"];
                };
            };
            400: components["responses"]["Http400"];
            403: components["responses"]["Http403"];
            /** @description Not Found */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            405: components["responses"]["Http405"];
            414: components["responses"]["Http414"];
            415: components["responses"]["Http415"];
            421: components["responses"]["Http421"];
            /** @description Unprocessable Entity */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            500: components["responses"]["Http500"];
            503: components["responses"]["Http503"];
            507: components["responses"]["Http507"];
        };
    };
    plans_bought_as__int_plan_id__bought_as_get: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                plan_id: number;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description OK */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["BoughtView"];
                };
            };
            /** @description Accepted */
            202: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["WorkView"];
                };
            };
            400: components["responses"]["Http400"];
            403: components["responses"]["Http403"];
            /** @description Not Found */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            405: components["responses"]["Http405"];
            414: components["responses"]["Http414"];
            415: components["responses"]["Http415"];
            421: components["responses"]["Http421"];
            /** @description Unprocessable Entity */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            500: components["responses"]["Http500"];
            503: components["responses"]["Http503"];
            507: components["responses"]["Http507"];
        };
    };
    plans_change_plan__int_plan_id__changes_post: {
        parameters: {
            query?: never;
            header: {
                /** @description The plan's edition, as its ETag */
                "If-Match": string;
                /** @description Says that it is no form of a foreign page. */
                "X-Requested-With": components["parameters"]["Mark"];
            };
            path: {
                plan_id: number;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["ChangeBody"];
            };
        };
        responses: {
            /** @description OK */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["PlanView"];
                };
            };
            400: components["responses"]["Http400"];
            403: components["responses"]["Http403"];
            /** @description Not Found */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            405: components["responses"]["Http405"];
            /** @description Conflict */
            409: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Stale"];
                };
            };
            413: components["responses"]["Http413"];
            414: components["responses"]["Http414"];
            415: components["responses"]["Http415"];
            421: components["responses"]["Http421"];
            /** @description Unprocessable Entity */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            500: components["responses"]["Http500"];
            503: components["responses"]["Http503"];
            507: components["responses"]["Http507"];
        };
    };
    plans_division__int_plan_id__division_get: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                plan_id: number;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description OK */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["DivisionView"];
                };
            };
            /** @description Accepted */
            202: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["WorkView"];
                };
            };
            400: components["responses"]["Http400"];
            403: components["responses"]["Http403"];
            /** @description Not Found */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            405: components["responses"]["Http405"];
            414: components["responses"]["Http414"];
            415: components["responses"]["Http415"];
            421: components["responses"]["Http421"];
            /** @description Unprocessable Entity */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            500: components["responses"]["Http500"];
            503: components["responses"]["Http503"];
            507: components["responses"]["Http507"];
        };
    };
    plans_engrave__int_plan_id__engraving_post: {
        parameters: {
            query?: never;
            header: {
                /** @description The plan's edition, as its ETag */
                "If-Match": string;
                /** @description Says that it is no form of a foreign page. */
                "X-Requested-With": components["parameters"]["Mark"];
            };
            path: {
                plan_id: number;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "multipart/form-data": components["schemas"]["EngravingForm"];
            };
        };
        responses: {
            /** @description OK */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["PlanView"];
                };
            };
            400: components["responses"]["Http400"];
            403: components["responses"]["Http403"];
            /** @description Not Found */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            405: components["responses"]["Http405"];
            /** @description Conflict */
            409: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Stale"];
                };
            };
            /** @description Request Entity Too Large */
            413: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            414: components["responses"]["Http414"];
            415: components["responses"]["Http415"];
            421: components["responses"]["Http421"];
            /** @description Unprocessable Entity */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            500: components["responses"]["Http500"];
            503: components["responses"]["Http503"];
            507: components["responses"]["Http507"];
        };
    };
    floor_plan_floor_plans__int_plan_id__floor_get: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                plan_id: number;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description OK */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["PlanFloorView"];
                };
            };
            400: components["responses"]["Http400"];
            403: components["responses"]["Http403"];
            /** @description Not Found */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            405: components["responses"]["Http405"];
            414: components["responses"]["Http414"];
            415: components["responses"]["Http415"];
            421: components["responses"]["Http421"];
            /** @description Unprocessable Entity */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            500: components["responses"]["Http500"];
            503: components["responses"]["Http503"];
            507: components["responses"]["Http507"];
        };
    };
    plans_journal__int_plan_id__journal_get: {
        parameters: {
            query?: {
                /** @description a line's number; the last lines where none is given */
                before?: number | null;
                count?: number;
            };
            header?: never;
            path: {
                plan_id: number;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description OK */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["JournalView"];
                };
            };
            400: components["responses"]["Http400"];
            403: components["responses"]["Http403"];
            /** @description Not Found */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            405: components["responses"]["Http405"];
            414: components["responses"]["Http414"];
            415: components["responses"]["Http415"];
            421: components["responses"]["Http421"];
            /** @description Unprocessable Entity */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            500: components["responses"]["Http500"];
            503: components["responses"]["Http503"];
            507: components["responses"]["Http507"];
        };
    };
    pace_habits__int_plan_id__last_used_get: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                plan_id: number;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description OK */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["LastUsedView"];
                };
            };
            400: components["responses"]["Http400"];
            403: components["responses"]["Http403"];
            /** @description Not Found */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            405: components["responses"]["Http405"];
            414: components["responses"]["Http414"];
            415: components["responses"]["Http415"];
            421: components["responses"]["Http421"];
            /** @description Unprocessable Entity */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            500: components["responses"]["Http500"];
            503: components["responses"]["Http503"];
            507: components["responses"]["Http507"];
        };
    };
    plans_layout__int_plan_id__layout_get: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                plan_id: number;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description OK */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["LayoutsView"];
                };
            };
            400: components["responses"]["Http400"];
            403: components["responses"]["Http403"];
            /** @description Not Found */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            405: components["responses"]["Http405"];
            414: components["responses"]["Http414"];
            415: components["responses"]["Http415"];
            421: components["responses"]["Http421"];
            /** @description Unprocessable Entity */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"][];
                };
            };
            500: components["responses"]["Http500"];
            503: components["responses"]["Http503"];
            507: components["responses"]["Http507"];
        };
    };
    plans_counts__int_plan_id__layout__load__counts_get: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                plan_id: number;
                load: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description OK */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["CountsView"];
                };
            };
            /** @description Accepted */
            202: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["WorkView"];
                };
            };
            400: components["responses"]["Http400"];
            403: components["responses"]["Http403"];
            /** @description Not Found */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            405: components["responses"]["Http405"];
            414: components["responses"]["Http414"];
            415: components["responses"]["Http415"];
            421: components["responses"]["Http421"];
            /** @description Unprocessable Entity */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            500: components["responses"]["Http500"];
            503: components["responses"]["Http503"];
            507: components["responses"]["Http507"];
        };
    };
    plans_scopes__int_plan_id__layout__load__scopes_get: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                plan_id: number;
                load: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description OK */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["ScopesView"];
                };
            };
            /** @description Accepted */
            202: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["WorkView"];
                };
            };
            400: components["responses"]["Http400"];
            403: components["responses"]["Http403"];
            /** @description Not Found */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            405: components["responses"]["Http405"];
            414: components["responses"]["Http414"];
            415: components["responses"]["Http415"];
            421: components["responses"]["Http421"];
            /** @description Unprocessable Entity */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            500: components["responses"]["Http500"];
            503: components["responses"]["Http503"];
            507: components["responses"]["Http507"];
        };
    };
    capacity_lead_time_plans__int_plan_id__lead_time_get: {
        parameters: {
            query?: {
                quantity?: number;
                wanted?: string | null;
            };
            header?: never;
            path: {
                plan_id: number;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description OK */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["LeadView"];
                };
            };
            400: components["responses"]["Http400"];
            403: components["responses"]["Http403"];
            /** @description Not Found */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            405: components["responses"]["Http405"];
            414: components["responses"]["Http414"];
            415: components["responses"]["Http415"];
            421: components["responses"]["Http421"];
            /** @description Unprocessable Entity */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            500: components["responses"]["Http500"];
            503: components["responses"]["Http503"];
            507: components["responses"]["Http507"];
        };
    };
    plans_machines__int_plan_id__machines_get: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                plan_id: number;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description OK */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["MachinesView"];
                };
            };
            /** @description Accepted */
            202: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["WorkView"];
                };
            };
            400: components["responses"]["Http400"];
            403: components["responses"]["Http403"];
            /** @description Not Found */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            405: components["responses"]["Http405"];
            414: components["responses"]["Http414"];
            415: components["responses"]["Http415"];
            421: components["responses"]["Http421"];
            /** @description Unprocessable Entity */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            500: components["responses"]["Http500"];
            503: components["responses"]["Http503"];
            507: components["responses"]["Http507"];
        };
    };
    plans_measure__int_plan_id__measure_post: {
        parameters: {
            query?: never;
            header: {
                /** @description Says that it is no form of a foreign page. */
                "X-Requested-With": components["parameters"]["Mark"];
            };
            path: {
                plan_id: number;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["PicksBody"];
            };
        };
        responses: {
            /** @description OK */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["PickReadings"];
                };
            };
            400: components["responses"]["Http400"];
            403: components["responses"]["Http403"];
            /** @description Not Found */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            405: components["responses"]["Http405"];
            413: components["responses"]["Http413"];
            414: components["responses"]["Http414"];
            415: components["responses"]["Http415"];
            421: components["responses"]["Http421"];
            /** @description Unprocessable Entity */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            500: components["responses"]["Http500"];
            503: components["responses"]["Http503"];
            507: components["responses"]["Http507"];
        };
    };
    plans_mesh__int_plan_id__mesh_get: {
        parameters: {
            query?: {
                /** @description A revision's letter; the plan's own where none is given */
                revision?: string;
            };
            header?: never;
            path: {
                plan_id: number;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description OK */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["MeshView"];
                };
            };
            400: components["responses"]["Http400"];
            403: components["responses"]["Http403"];
            /** @description Not Found */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            405: components["responses"]["Http405"];
            414: components["responses"]["Http414"];
            415: components["responses"]["Http415"];
            421: components["responses"]["Http421"];
            /** @description Unprocessable Entity */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"][];
                };
            };
            500: components["responses"]["Http500"];
            503: components["responses"]["Http503"];
            507: components["responses"]["Http507"];
        };
    };
    pace_figures__int_plan_id__operations__operation__figures_get: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                plan_id: number;
                operation: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description OK */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["FiguresView"];
                };
            };
            400: components["responses"]["Http400"];
            403: components["responses"]["Http403"];
            /** @description Not Found */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            405: components["responses"]["Http405"];
            414: components["responses"]["Http414"];
            415: components["responses"]["Http415"];
            421: components["responses"]["Http421"];
            /** @description Unprocessable Entity */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            500: components["responses"]["Http500"];
            503: components["responses"]["Http503"];
            507: components["responses"]["Http507"];
        };
    };
    pace_pace__int_plan_id__operations__operation__pace_get: {
        parameters: {
            query: {
                speed: number;
                feed: number;
            };
            header?: never;
            path: {
                plan_id: number;
                operation: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description OK */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["PaceView"];
                };
            };
            400: components["responses"]["Http400"];
            403: components["responses"]["Http403"];
            /** @description Not Found */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            405: components["responses"]["Http405"];
            414: components["responses"]["Http414"];
            415: components["responses"]["Http415"];
            421: components["responses"]["Http421"];
            /** @description Unprocessable Entity */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            500: components["responses"]["Http500"];
            503: components["responses"]["Http503"];
            507: components["responses"]["Http507"];
        };
    };
    order_cycle__int_plan_id__order__load__get: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                plan_id: number;
                load: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description OK */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["CycleView"];
                };
            };
            400: components["responses"]["Http400"];
            403: components["responses"]["Http403"];
            /** @description Not Found */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            405: components["responses"]["Http405"];
            414: components["responses"]["Http414"];
            415: components["responses"]["Http415"];
            421: components["responses"]["Http421"];
            /** @description Unprocessable Entity */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            500: components["responses"]["Http500"];
            503: components["responses"]["Http503"];
            507: components["responses"]["Http507"];
        };
    };
    order_again__int_plan_id__order__load__again__piece___operation__get: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                plan_id: number;
                load: string;
                piece: string;
                operation: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description OK */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["WaysAroundView"];
                };
            };
            /** @description Accepted */
            202: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["WorkView"];
                };
            };
            400: components["responses"]["Http400"];
            403: components["responses"]["Http403"];
            /** @description Not Found */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            405: components["responses"]["Http405"];
            414: components["responses"]["Http414"];
            415: components["responses"]["Http415"];
            421: components["responses"]["Http421"];
            /** @description Unprocessable Entity */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            500: components["responses"]["Http500"];
            503: components["responses"]["Http503"];
            507: components["responses"]["Http507"];
        };
    };
    order_best__int_plan_id__order__load__best_get: {
        parameters: {
            query?: {
                /** @description "seconds", or the counts by rank: "tool,index,piece" */
                goal?: string;
                /** @description of search */
                seconds?: number;
            };
            header?: never;
            path: {
                plan_id: number;
                load: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description OK */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["BestView"];
                };
            };
            /** @description Accepted */
            202: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["WorkView"];
                };
            };
            400: components["responses"]["Http400"];
            403: components["responses"]["Http403"];
            /** @description Not Found */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            405: components["responses"]["Http405"];
            414: components["responses"]["Http414"];
            415: components["responses"]["Http415"];
            421: components["responses"]["Http421"];
            /** @description Unprocessable Entity */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            500: components["responses"]["Http500"];
            503: components["responses"]["Http503"];
            507: components["responses"]["Http507"];
        };
    };
    revision_note__int_plan_id__papers_change_note_pdf_get: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                plan_id: number;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description the note */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/pdf": string;
                };
            };
            400: components["responses"]["Http400"];
            403: components["responses"]["Http403"];
            /** @description Not Found */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            405: components["responses"]["Http405"];
            414: components["responses"]["Http414"];
            415: components["responses"]["Http415"];
            421: components["responses"]["Http421"];
            /** @description Unprocessable Entity */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            500: components["responses"]["Http500"];
            503: components["responses"]["Http503"];
            507: components["responses"]["Http507"];
        };
    };
    plans_papers__int_plan_id__papers__paper__get: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                plan_id: number;
                paper: "setup-sheet.pdf" | "operations.csv" | "operations.xlsx" | "tools.csv" | "tools.xlsx" | "zeros.csv" | "zeros.xlsx" | "shopping.csv" | "shopping.xlsx";
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description the paper */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/pdf": string;
                    "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet": string;
                    "text/csv": string;
                };
            };
            /** @description Accepted */
            202: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["WorkView"];
                };
            };
            400: components["responses"]["Http400"];
            403: components["responses"]["Http403"];
            /** @description Not Found */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            405: components["responses"]["Http405"];
            414: components["responses"]["Http414"];
            415: components["responses"]["Http415"];
            421: components["responses"]["Http421"];
            /** @description Unprocessable Entity */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            500: components["responses"]["Http500"];
            503: components["responses"]["Http503"];
            507: components["responses"]["Http507"];
        };
    };
    play_play__int_plan_id__play_get: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                plan_id: number;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description OK */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["PlayView"];
                };
            };
            /** @description Accepted */
            202: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["WorkView"];
                };
            };
            400: components["responses"]["Http400"];
            403: components["responses"]["Http403"];
            /** @description Not Found */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            405: components["responses"]["Http405"];
            414: components["responses"]["Http414"];
            415: components["responses"]["Http415"];
            421: components["responses"]["Http421"];
            /** @description Unprocessable Entity */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            500: components["responses"]["Http500"];
            503: components["responses"]["Http503"];
            507: components["responses"]["Http507"];
        };
    };
    play_tool_way__int_plan_id__play__operation__get: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                plan_id: number;
                operation: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description OK */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["ToolWayView"];
                };
            };
            400: components["responses"]["Http400"];
            403: components["responses"]["Http403"];
            /** @description Not Found */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            405: components["responses"]["Http405"];
            414: components["responses"]["Http414"];
            415: components["responses"]["Http415"];
            421: components["responses"]["Http421"];
            /** @description Unprocessable Entity */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            500: components["responses"]["Http500"];
            503: components["responses"]["Http503"];
            507: components["responses"]["Http507"];
        };
    };
    program_program__int_plan_id__program_get: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                plan_id: number;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description OK */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["ProgramsView"];
                };
            };
            400: components["responses"]["Http400"];
            403: components["responses"]["Http403"];
            /** @description Not Found */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            405: components["responses"]["Http405"];
            414: components["responses"]["Http414"];
            415: components["responses"]["Http415"];
            421: components["responses"]["Http421"];
            /** @description Unprocessable Entity */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            500: components["responses"]["Http500"];
            503: components["responses"]["Http503"];
            507: components["responses"]["Http507"];
        };
    };
    program_machine_text__int_plan_id__program_machine__machine__text_get: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                plan_id: number;
                machine: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description a program */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "text/plain": string;
                };
            };
            /** @description Accepted */
            202: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["WorkView"];
                };
            };
            400: components["responses"]["Http400"];
            403: components["responses"]["Http403"];
            /** @description Not Found */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            405: components["responses"]["Http405"];
            414: components["responses"]["Http414"];
            415: components["responses"]["Http415"];
            421: components["responses"]["Http421"];
            /** @description Unprocessable Entity */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            500: components["responses"]["Http500"];
            503: components["responses"]["Http503"];
            507: components["responses"]["Http507"];
        };
    };
    program_package__int_plan_id__program_package_get: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                plan_id: number;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description the package */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/zip": string;
                };
            };
            /** @description Accepted */
            202: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["WorkView"];
                };
            };
            400: components["responses"]["Http400"];
            403: components["responses"]["Http403"];
            /** @description Not Found */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            405: components["responses"]["Http405"];
            414: components["responses"]["Http414"];
            415: components["responses"]["Http415"];
            421: components["responses"]["Http421"];
            /** @description Unprocessable Entity */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            500: components["responses"]["Http500"];
            503: components["responses"]["Http503"];
            507: components["responses"]["Http507"];
        };
    };
    program_send__int_plan_id__program_send_post: {
        parameters: {
            query?: {
                /** @description cycles that are waited for */
                runs?: number;
            };
            header: {
                /** @description Says that it is no form of a foreign page. */
                "X-Requested-With": components["parameters"]["Mark"];
            };
            path: {
                plan_id: number;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description OK */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["SentView"];
                };
            };
            /** @description Accepted */
            202: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["WorkView"];
                };
            };
            400: components["responses"]["Http400"];
            403: components["responses"]["Http403"];
            /** @description Not Found */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            405: components["responses"]["Http405"];
            414: components["responses"]["Http414"];
            415: components["responses"]["Http415"];
            421: components["responses"]["Http421"];
            /** @description Unprocessable Entity */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            500: components["responses"]["Http500"];
            503: components["responses"]["Http503"];
            507: components["responses"]["Http507"];
        };
    };
    program_attach__int_plan_id__program__setup__attached_post: {
        parameters: {
            query?: never;
            header: {
                /** @description The plan's edition, as its ETag */
                "If-Match": string;
                /** @description Says that it is no form of a foreign page. */
                "X-Requested-With": components["parameters"]["Mark"];
            };
            path: {
                plan_id: number;
                setup: string;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "multipart/form-data": components["schemas"]["ProgramForm"];
            };
        };
        responses: {
            /** @description OK */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["PlanView"];
                };
            };
            400: components["responses"]["Http400"];
            403: components["responses"]["Http403"];
            /** @description Not Found */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            405: components["responses"]["Http405"];
            /** @description Conflict */
            409: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Stale"];
                };
            };
            /** @description Request Entity Too Large */
            413: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            414: components["responses"]["Http414"];
            415: components["responses"]["Http415"];
            421: components["responses"]["Http421"];
            /** @description Unprocessable Entity */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            500: components["responses"]["Http500"];
            503: components["responses"]["Http503"];
            507: components["responses"]["Http507"];
        };
    };
    program_part__int_plan_id__program__setup__part_get: {
        parameters: {
            query?: {
                /** @description of the programs of a setup, one for each carriage */
                which?: number;
                setups?: string[];
                pieces?: string[];
                sides?: number[];
                /** @description of a drum of spindles */
                positions?: number[];
            };
            header?: never;
            path: {
                plan_id: number;
                setup: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description OK */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["PartProgramView"];
                };
            };
            400: components["responses"]["Http400"];
            403: components["responses"]["Http403"];
            /** @description Not Found */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            405: components["responses"]["Http405"];
            414: components["responses"]["Http414"];
            415: components["responses"]["Http415"];
            421: components["responses"]["Http421"];
            /** @description Unprocessable Entity */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            500: components["responses"]["Http500"];
            503: components["responses"]["Http503"];
            507: components["responses"]["Http507"];
        };
    };
    program_part_text__int_plan_id__program__setup__part_text_get: {
        parameters: {
            query?: {
                /** @description of the programs of a setup, one for each carriage */
                which?: number;
                setups?: string[];
                pieces?: string[];
                sides?: number[];
                /** @description of a drum of spindles */
                positions?: number[];
            };
            header?: never;
            path: {
                plan_id: number;
                setup: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description a program */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "text/plain": string;
                };
            };
            /** @description Accepted */
            202: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["WorkView"];
                };
            };
            400: components["responses"]["Http400"];
            403: components["responses"]["Http403"];
            /** @description Not Found */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            405: components["responses"]["Http405"];
            414: components["responses"]["Http414"];
            415: components["responses"]["Http415"];
            421: components["responses"]["Http421"];
            /** @description Unprocessable Entity */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            500: components["responses"]["Http500"];
            503: components["responses"]["Http503"];
            507: components["responses"]["Http507"];
        };
    };
    program_text__int_plan_id__program__setup__text_get: {
        parameters: {
            query?: {
                /** @description of the programs of a setup, one for each carriage */
                which?: number;
            };
            header?: never;
            path: {
                plan_id: number;
                setup: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description a program */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "text/plain": string;
                };
            };
            /** @description Accepted */
            202: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["WorkView"];
                };
            };
            400: components["responses"]["Http400"];
            403: components["responses"]["Http403"];
            /** @description Not Found */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            405: components["responses"]["Http405"];
            414: components["responses"]["Http414"];
            415: components["responses"]["Http415"];
            421: components["responses"]["Http421"];
            /** @description Unprocessable Entity */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            500: components["responses"]["Http500"];
            503: components["responses"]["Http503"];
            507: components["responses"]["Http507"];
        };
    };
    program_trial__int_plan_id__program__setup__trial__which__get: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                plan_id: number;
                setup: string;
                which: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description OK */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["TrialView"];
                };
            };
            /** @description Accepted */
            202: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["WorkView"];
                };
            };
            400: components["responses"]["Http400"];
            403: components["responses"]["Http403"];
            /** @description Not Found */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            405: components["responses"]["Http405"];
            414: components["responses"]["Http414"];
            415: components["responses"]["Http415"];
            421: components["responses"]["Http421"];
            /** @description Unprocessable Entity */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            500: components["responses"]["Http500"];
            503: components["responses"]["Http503"];
            507: components["responses"]["Http507"];
        };
    };
    plans_redo__int_plan_id__redo_post: {
        parameters: {
            query?: never;
            header: {
                /** @description The plan's edition, as its ETag */
                "If-Match": string;
                /** @description Says that it is no form of a foreign page. */
                "X-Requested-With": components["parameters"]["Mark"];
            };
            path: {
                plan_id: number;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description OK */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["PlanView"];
                };
            };
            400: components["responses"]["Http400"];
            403: components["responses"]["Http403"];
            /** @description Not Found */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            405: components["responses"]["Http405"];
            /** @description Conflict */
            409: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Stale"];
                };
            };
            414: components["responses"]["Http414"];
            415: components["responses"]["Http415"];
            421: components["responses"]["Http421"];
            /** @description Unprocessable Entity */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            500: components["responses"]["Http500"];
            503: components["responses"]["Http503"];
            507: components["responses"]["Http507"];
        };
    };
    revision_revision_price__int_plan_id__revision_price_get: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                plan_id: number;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description OK */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["RevisionPriceView"];
                };
            };
            /** @description Accepted */
            202: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["WorkView"];
                };
            };
            400: components["responses"]["Http400"];
            403: components["responses"]["Http403"];
            /** @description Not Found */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            405: components["responses"]["Http405"];
            414: components["responses"]["Http414"];
            415: components["responses"]["Http415"];
            421: components["responses"]["Http421"];
            /** @description Unprocessable Entity */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            500: components["responses"]["Http500"];
            503: components["responses"]["Http503"];
            507: components["responses"]["Http507"];
        };
    };
    plans_compare__int_plan_id__revisions__revision__get: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                plan_id: number;
                revision: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description OK */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["CompareView"];
                };
            };
            400: components["responses"]["Http400"];
            403: components["responses"]["Http403"];
            /** @description Not Found */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            405: components["responses"]["Http405"];
            414: components["responses"]["Http414"];
            415: components["responses"]["Http415"];
            421: components["responses"]["Http421"];
            /** @description Unprocessable Entity */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"][];
                };
            };
            500: components["responses"]["Http500"];
            503: components["responses"]["Http503"];
            507: components["responses"]["Http507"];
        };
    };
    plans_drawing__int_plan_id__setups__setup__drawing_get: {
        parameters: {
            query?: {
                view?: "top" | "end" | "iso";
            };
            header?: never;
            path: {
                plan_id: number;
                setup: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description OK */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["DrawingView"];
                };
            };
            400: components["responses"]["Http400"];
            403: components["responses"]["Http403"];
            /** @description Not Found */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            405: components["responses"]["Http405"];
            414: components["responses"]["Http414"];
            415: components["responses"]["Http415"];
            421: components["responses"]["Http421"];
            /** @description Unprocessable Entity */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"][];
                };
            };
            500: components["responses"]["Http500"];
            503: components["responses"]["Http503"];
            507: components["responses"]["Http507"];
        };
    };
    plans_grips__int_plan_id__setups__setup__grips_get: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                plan_id: number;
                setup: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description OK */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["GripsView"];
                };
            };
            /** @description Accepted */
            202: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["WorkView"];
                };
            };
            400: components["responses"]["Http400"];
            403: components["responses"]["Http403"];
            /** @description Not Found */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            405: components["responses"]["Http405"];
            414: components["responses"]["Http414"];
            415: components["responses"]["Http415"];
            421: components["responses"]["Http421"];
            /** @description Unprocessable Entity */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            500: components["responses"]["Http500"];
            503: components["responses"]["Http503"];
            507: components["responses"]["Http507"];
        };
    };
    stock_stock__int_plan_id__stock_get: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                plan_id: number;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description OK */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["StockView"];
                };
            };
            /** @description Accepted */
            202: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["WorkView"];
                };
            };
            400: components["responses"]["Http400"];
            403: components["responses"]["Http403"];
            /** @description Not Found */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            405: components["responses"]["Http405"];
            414: components["responses"]["Http414"];
            415: components["responses"]["Http415"];
            421: components["responses"]["Http421"];
            /** @description Unprocessable Entity */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            500: components["responses"]["Http500"];
            503: components["responses"]["Http503"];
            507: components["responses"]["Http507"];
        };
    };
    plans_take_stock_model__int_plan_id__stock_model_post: {
        parameters: {
            query?: never;
            header: {
                /** @description The plan's edition, as its ETag */
                "If-Match": string;
                /** @description Says that it is no form of a foreign page. */
                "X-Requested-With": components["parameters"]["Mark"];
            };
            path: {
                plan_id: number;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "multipart/form-data": components["schemas"]["StockModelForm"];
            };
        };
        responses: {
            /** @description OK */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["PlanView"];
                };
            };
            400: components["responses"]["Http400"];
            403: components["responses"]["Http403"];
            /** @description Not Found */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            405: components["responses"]["Http405"];
            /** @description Conflict */
            409: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Stale"];
                };
            };
            /** @description Request Entity Too Large */
            413: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            414: components["responses"]["Http414"];
            415: components["responses"]["Http415"];
            421: components["responses"]["Http421"];
            /** @description Unprocessable Entity */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            500: components["responses"]["Http500"];
            503: components["responses"]["Http503"];
            507: components["responses"]["Http507"];
        };
    };
    stock_stock_after__int_plan_id__stock__int_count__get: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                plan_id: number;
                /** @description Operations that are done */
                count: number;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description OK */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["StockSolidView"];
                };
            };
            /** @description Accepted */
            202: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["WorkView"];
                };
            };
            400: components["responses"]["Http400"];
            403: components["responses"]["Http403"];
            /** @description Not Found */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            405: components["responses"]["Http405"];
            414: components["responses"]["Http414"];
            415: components["responses"]["Http415"];
            421: components["responses"]["Http421"];
            /** @description Unprocessable Entity */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            500: components["responses"]["Http500"];
            503: components["responses"]["Http503"];
            507: components["responses"]["Http507"];
        };
    };
    stock_height__int_plan_id__stock__int_count__height_post: {
        parameters: {
            query?: never;
            header: {
                /** @description Says that it is no form of a foreign page. */
                "X-Requested-With": components["parameters"]["Mark"];
            };
            path: {
                plan_id: number;
                /** @description Operations that are done */
                count: number;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["HeightQuestion"];
            };
        };
        responses: {
            /** @description OK */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["HeightView"];
                };
            };
            /** @description Accepted */
            202: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["WorkView"];
                };
            };
            400: components["responses"]["Http400"];
            403: components["responses"]["Http403"];
            /** @description Not Found */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            405: components["responses"]["Http405"];
            413: components["responses"]["Http413"];
            414: components["responses"]["Http414"];
            415: components["responses"]["Http415"];
            421: components["responses"]["Http421"];
            /** @description Unprocessable Entity */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            500: components["responses"]["Http500"];
            503: components["responses"]["Http503"];
            507: components["responses"]["Http507"];
        };
    };
    pace_tool_use__int_plan_id__tool_use_get: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                plan_id: number;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description OK */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["ToolUsesView"];
                };
            };
            400: components["responses"]["Http400"];
            403: components["responses"]["Http403"];
            /** @description Not Found */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            405: components["responses"]["Http405"];
            414: components["responses"]["Http414"];
            415: components["responses"]["Http415"];
            421: components["responses"]["Http421"];
            /** @description Unprocessable Entity */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            500: components["responses"]["Http500"];
            503: components["responses"]["Http503"];
            507: components["responses"]["Http507"];
        };
    };
    plans_undo__int_plan_id__undo_post: {
        parameters: {
            query?: never;
            header: {
                /** @description The plan's edition, as its ETag */
                "If-Match": string;
                /** @description Says that it is no form of a foreign page. */
                "X-Requested-With": components["parameters"]["Mark"];
            };
            path: {
                plan_id: number;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description OK */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["PlanView"];
                };
            };
            400: components["responses"]["Http400"];
            403: components["responses"]["Http403"];
            /** @description Not Found */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            405: components["responses"]["Http405"];
            /** @description Conflict */
            409: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Stale"];
                };
            };
            414: components["responses"]["Http414"];
            415: components["responses"]["Http415"];
            421: components["responses"]["Http421"];
            /** @description Unprocessable Entity */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            500: components["responses"]["Http500"];
            503: components["responses"]["Http503"];
            507: components["responses"]["Http507"];
        };
    };
    plans_go_to__int_plan_id__version_post: {
        parameters: {
            query?: never;
            header: {
                /** @description The plan's edition, as its ETag */
                "If-Match": string;
                /** @description Says that it is no form of a foreign page. */
                "X-Requested-With": components["parameters"]["Mark"];
            };
            path: {
                plan_id: number;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["GoTo"];
            };
        };
        responses: {
            /** @description OK */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["PlanView"];
                };
            };
            400: components["responses"]["Http400"];
            403: components["responses"]["Http403"];
            /** @description Not Found */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            405: components["responses"]["Http405"];
            /** @description Conflict */
            409: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Stale"];
                };
            };
            413: components["responses"]["Http413"];
            414: components["responses"]["Http414"];
            415: components["responses"]["Http415"];
            421: components["responses"]["Http421"];
            /** @description Unprocessable Entity */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            500: components["responses"]["Http500"];
            503: components["responses"]["Http503"];
            507: components["responses"]["Http507"];
        };
    };
    pace_worth__int_plan_id__worth_get: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                plan_id: number;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description OK */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["WorthsView"];
                };
            };
            /** @description Accepted */
            202: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["WorkView"];
                };
            };
            400: components["responses"]["Http400"];
            403: components["responses"]["Http403"];
            /** @description Not Found */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            405: components["responses"]["Http405"];
            414: components["responses"]["Http414"];
            415: components["responses"]["Http415"];
            421: components["responses"]["Http421"];
            /** @description Unprocessable Entity */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            500: components["responses"]["Http500"];
            503: components["responses"]["Http503"];
            507: components["responses"]["Http507"];
        };
    };
    quotes_quotes_quotes_get: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description OK */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["QuotesView"];
                };
            };
            400: components["responses"]["Http400"];
            403: components["responses"]["Http403"];
            405: components["responses"]["Http405"];
            414: components["responses"]["Http414"];
            415: components["responses"]["Http415"];
            421: components["responses"]["Http421"];
            /** @description Unprocessable Entity */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"][];
                };
            };
            500: components["responses"]["Http500"];
            503: components["responses"]["Http503"];
            507: components["responses"]["Http507"];
        };
    };
    quotes_begin_quotes_post: {
        parameters: {
            query?: never;
            header: {
                /** @description Says that it is no form of a foreign page. */
                "X-Requested-With": components["parameters"]["Mark"];
            };
            path?: never;
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["NewQuote"];
            };
        };
        responses: {
            /** @description Created */
            201: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["QuoteView"];
                };
            };
            400: components["responses"]["Http400"];
            403: components["responses"]["Http403"];
            /** @description Not Found */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            405: components["responses"]["Http405"];
            413: components["responses"]["Http413"];
            414: components["responses"]["Http414"];
            415: components["responses"]["Http415"];
            421: components["responses"]["Http421"];
            /** @description Unprocessable Entity */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            500: components["responses"]["Http500"];
            503: components["responses"]["Http503"];
            507: components["responses"]["Http507"];
        };
    };
    quotes_quote_list_quotes_files__file__get: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                file: "quotes.csv" | "quotes.xlsx";
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description each quantity that was offered */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet": string;
                    "text/csv": string;
                };
            };
            400: components["responses"]["Http400"];
            403: components["responses"]["Http403"];
            /** @description Not Found */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            405: components["responses"]["Http405"];
            414: components["responses"]["Http414"];
            415: components["responses"]["Http415"];
            421: components["responses"]["Http421"];
            /** @description Unprocessable Entity */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            500: components["responses"]["Http500"];
            503: components["responses"]["Http503"];
            507: components["responses"]["Http507"];
        };
    };
    quotes_quote_quotes__int_quote_id__get: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                quote_id: number;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description OK */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["QuoteView"];
                };
            };
            400: components["responses"]["Http400"];
            403: components["responses"]["Http403"];
            /** @description Not Found */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            405: components["responses"]["Http405"];
            414: components["responses"]["Http414"];
            415: components["responses"]["Http415"];
            421: components["responses"]["Http421"];
            /** @description Unprocessable Entity */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            500: components["responses"]["Http500"];
            503: components["responses"]["Http503"];
            507: components["responses"]["Http507"];
        };
    };
    quotes_edit_quotes__int_quote_id__put: {
        parameters: {
            query?: never;
            header: {
                /** @description Says that it is no form of a foreign page. */
                "X-Requested-With": components["parameters"]["Mark"];
            };
            path: {
                quote_id: number;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["QuoteBody"];
            };
        };
        responses: {
            /** @description OK */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["QuoteView"];
                };
            };
            400: components["responses"]["Http400"];
            403: components["responses"]["Http403"];
            /** @description Not Found */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            405: components["responses"]["Http405"];
            413: components["responses"]["Http413"];
            414: components["responses"]["Http414"];
            415: components["responses"]["Http415"];
            421: components["responses"]["Http421"];
            /** @description Unprocessable Entity */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            500: components["responses"]["Http500"];
            503: components["responses"]["Http503"];
            507: components["responses"]["Http507"];
        };
    };
    quotes_drop_quotes__int_quote_id__delete: {
        parameters: {
            query?: never;
            header: {
                /** @description Says that it is no form of a foreign page. */
                "X-Requested-With": components["parameters"]["Mark"];
            };
            path: {
                quote_id: number;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description OK */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["QuoteView"];
                };
            };
            400: components["responses"]["Http400"];
            403: components["responses"]["Http403"];
            /** @description Not Found */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            405: components["responses"]["Http405"];
            414: components["responses"]["Http414"];
            415: components["responses"]["Http415"];
            421: components["responses"]["Http421"];
            /** @description Unprocessable Entity */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            500: components["responses"]["Http500"];
            503: components["responses"]["Http503"];
            507: components["responses"]["Http507"];
        };
    };
    quotes_again_quotes__int_quote_id__again_post: {
        parameters: {
            query?: never;
            header: {
                /** @description Says that it is no form of a foreign page. */
                "X-Requested-With": components["parameters"]["Mark"];
            };
            path: {
                quote_id: number;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Created */
            201: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["QuoteView"];
                };
            };
            400: components["responses"]["Http400"];
            403: components["responses"]["Http403"];
            /** @description Not Found */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            405: components["responses"]["Http405"];
            414: components["responses"]["Http414"];
            415: components["responses"]["Http415"];
            421: components["responses"]["Http421"];
            /** @description Unprocessable Entity */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            500: components["responses"]["Http500"];
            503: components["responses"]["Http503"];
            507: components["responses"]["Http507"];
        };
    };
    quotes_decide_quotes__int_quote_id__decision_post: {
        parameters: {
            query?: never;
            header: {
                /** @description Says that it is no form of a foreign page. */
                "X-Requested-With": components["parameters"]["Mark"];
            };
            path: {
                quote_id: number;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["Decision"];
            };
        };
        responses: {
            /** @description OK */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["QuoteView"];
                };
            };
            400: components["responses"]["Http400"];
            403: components["responses"]["Http403"];
            /** @description Not Found */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            405: components["responses"]["Http405"];
            413: components["responses"]["Http413"];
            414: components["responses"]["Http414"];
            415: components["responses"]["Http415"];
            421: components["responses"]["Http421"];
            /** @description Unprocessable Entity */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            500: components["responses"]["Http500"];
            503: components["responses"]["Http503"];
            507: components["responses"]["Http507"];
        };
    };
    quotes_issue_quotes__int_quote_id__issue_post: {
        parameters: {
            query?: never;
            header: {
                /** @description Says that it is no form of a foreign page. */
                "X-Requested-With": components["parameters"]["Mark"];
            };
            path: {
                quote_id: number;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["IssueBody"];
            };
        };
        responses: {
            /** @description OK */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["QuoteView"];
                };
            };
            400: components["responses"]["Http400"];
            403: components["responses"]["Http403"];
            /** @description Not Found */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            405: components["responses"]["Http405"];
            413: components["responses"]["Http413"];
            414: components["responses"]["Http414"];
            415: components["responses"]["Http415"];
            421: components["responses"]["Http421"];
            /** @description Unprocessable Entity */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            500: components["responses"]["Http500"];
            503: components["responses"]["Http503"];
            507: components["responses"]["Http507"];
        };
    };
    quotes_paper_quotes__int_quote_id__pdf_get: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                quote_id: number;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description the quote */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/pdf": string;
                };
            };
            400: components["responses"]["Http400"];
            403: components["responses"]["Http403"];
            /** @description Not Found */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            405: components["responses"]["Http405"];
            414: components["responses"]["Http414"];
            415: components["responses"]["Http415"];
            421: components["responses"]["Http421"];
            /** @description Unprocessable Entity */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            500: components["responses"]["Http500"];
            503: components["responses"]["Http503"];
            507: components["responses"]["Http507"];
        };
    };
    readings_read_job_job_post: {
        parameters: {
            query?: never;
            header: {
                /** @description Says that it is no form of a foreign page. */
                "X-Requested-With": components["parameters"]["Mark"];
            };
            path?: never;
            cookie?: never;
        };
        requestBody: {
            content: {
                "multipart/form-data": components["schemas"]["JobForm"];
            };
        };
        responses: {
            /** @description Accepted */
            202: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["ReadingView"];
                };
            };
            400: components["responses"]["Http400"];
            403: components["responses"]["Http403"];
            405: components["responses"]["Http405"];
            /** @description Request Entity Too Large */
            413: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            414: components["responses"]["Http414"];
            415: components["responses"]["Http415"];
            421: components["responses"]["Http421"];
            /** @description Unprocessable Entity */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            500: components["responses"]["Http500"];
            503: components["responses"]["Http503"];
            507: components["responses"]["Http507"];
        };
    };
    readings_read_revision_revision_post: {
        parameters: {
            query?: never;
            header: {
                /** @description Says that it is no form of a foreign page. */
                "X-Requested-With": components["parameters"]["Mark"];
            };
            path?: never;
            cookie?: never;
        };
        requestBody: {
            content: {
                "multipart/form-data": components["schemas"]["RevisionForm"];
            };
        };
        responses: {
            /** @description Accepted */
            202: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["ReadingView"];
                };
            };
            400: components["responses"]["Http400"];
            403: components["responses"]["Http403"];
            405: components["responses"]["Http405"];
            /** @description Request Entity Too Large */
            413: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            414: components["responses"]["Http414"];
            415: components["responses"]["Http415"];
            421: components["responses"]["Http421"];
            /** @description Unprocessable Entity */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            500: components["responses"]["Http500"];
            503: components["responses"]["Http503"];
            507: components["responses"]["Http507"];
        };
    };
    readings_get_reading__reading__get: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                reading: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description OK */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["ReadingView"];
                };
            };
            400: components["responses"]["Http400"];
            403: components["responses"]["Http403"];
            /** @description Not Found */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            405: components["responses"]["Http405"];
            414: components["responses"]["Http414"];
            415: components["responses"]["Http415"];
            421: components["responses"]["Http421"];
            /** @description Unprocessable Entity */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"][];
                };
            };
            500: components["responses"]["Http500"];
            503: components["responses"]["Http503"];
            507: components["responses"]["Http507"];
        };
    };
    readings_cancel_reading__reading__delete: {
        parameters: {
            query?: never;
            header: {
                /** @description Says that it is no form of a foreign page. */
                "X-Requested-With": components["parameters"]["Mark"];
            };
            path: {
                reading: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description OK */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["ReadingView"];
                };
            };
            400: components["responses"]["Http400"];
            403: components["responses"]["Http403"];
            /** @description Not Found */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            405: components["responses"]["Http405"];
            414: components["responses"]["Http414"];
            415: components["responses"]["Http415"];
            421: components["responses"]["Http421"];
            /** @description Unprocessable Entity */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"][];
                };
            };
            500: components["responses"]["Http500"];
            503: components["responses"]["Http503"];
            507: components["responses"]["Http507"];
        };
    };
    readings_mean_size__reading__size_post: {
        parameters: {
            query?: never;
            header: {
                /** @description Says that it is no form of a foreign page. */
                "X-Requested-With": components["parameters"]["Mark"];
            };
            path: {
                reading: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description OK */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["ReadingView"];
                };
            };
            400: components["responses"]["Http400"];
            403: components["responses"]["Http403"];
            /** @description Not Found */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            405: components["responses"]["Http405"];
            414: components["responses"]["Http414"];
            415: components["responses"]["Http415"];
            421: components["responses"]["Http421"];
            /** @description Unprocessable Entity */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            500: components["responses"]["Http500"];
            503: components["responses"]["Http503"];
            507: components["responses"]["Http507"];
        };
    };
    readings_choose_solid__reading__solid_post: {
        parameters: {
            query?: never;
            header: {
                /** @description Says that it is no form of a foreign page. */
                "X-Requested-With": components["parameters"]["Mark"];
            };
            path: {
                reading: string;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["SolidChoice"];
            };
        };
        responses: {
            /** @description OK */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["ReadingView"];
                };
            };
            400: components["responses"]["Http400"];
            403: components["responses"]["Http403"];
            /** @description Not Found */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            405: components["responses"]["Http405"];
            413: components["responses"]["Http413"];
            414: components["responses"]["Http414"];
            415: components["responses"]["Http415"];
            421: components["responses"]["Http421"];
            /** @description Unprocessable Entity */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            500: components["responses"]["Http500"];
            503: components["responses"]["Http503"];
            507: components["responses"]["Http507"];
        };
    };
    tools_calculator_calculator_get: {
        parameters: {
            query: {
                tool: string;
                material: string;
                machine: string;
                /** @description mm; 0 for the usual */
                ap?: number;
                /** @description mm; 0 for the usual */
                ae?: number;
                speed?: number;
                feed?: number;
                /** @description of turned work, mm */
                diameter?: number;
            };
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description OK */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["CalculatedView"];
                };
            };
            400: components["responses"]["Http400"];
            403: components["responses"]["Http403"];
            /** @description Not Found */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            405: components["responses"]["Http405"];
            /** @description Request Entity Too Large */
            413: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            414: components["responses"]["Http414"];
            415: components["responses"]["Http415"];
            421: components["responses"]["Http421"];
            /** @description Unprocessable Entity */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            500: components["responses"]["Http500"];
            503: components["responses"]["Http503"];
            507: components["responses"]["Http507"];
        };
    };
    tools_chains_chains_get: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description OK */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["ChainsView"];
                };
            };
            400: components["responses"]["Http400"];
            403: components["responses"]["Http403"];
            405: components["responses"]["Http405"];
            414: components["responses"]["Http414"];
            415: components["responses"]["Http415"];
            421: components["responses"]["Http421"];
            /** @description Unprocessable Entity */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"][];
                };
            };
            500: components["responses"]["Http500"];
            503: components["responses"]["Http503"];
            507: components["responses"]["Http507"];
        };
    };
    tools_change_chains_chains_put: {
        parameters: {
            query?: never;
            header: {
                /** @description Says that it is no form of a foreign page. */
                "X-Requested-With": components["parameters"]["Mark"];
            };
            path?: never;
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["ChainsBody"];
            };
        };
        responses: {
            /** @description OK */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["ChainsView"];
                };
            };
            400: components["responses"]["Http400"];
            403: components["responses"]["Http403"];
            /** @description Not Found */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            405: components["responses"]["Http405"];
            /** @description Request Entity Too Large */
            413: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            414: components["responses"]["Http414"];
            415: components["responses"]["Http415"];
            421: components["responses"]["Http421"];
            /** @description Unprocessable Entity */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            500: components["responses"]["Http500"];
            503: components["responses"]["Http503"];
            507: components["responses"]["Http507"];
        };
    };
    tools_bring_chains_chains_post: {
        parameters: {
            query?: never;
            header: {
                /** @description Says that it is no form of a foreign page. */
                "X-Requested-With": components["parameters"]["Mark"];
            };
            path?: never;
            cookie?: never;
        };
        requestBody: {
            content: {
                "multipart/form-data": components["schemas"]["ToolsForm"];
            };
        };
        responses: {
            /** @description OK */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["ChainsView"];
                };
            };
            400: components["responses"]["Http400"];
            403: components["responses"]["Http403"];
            /** @description Not Found */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            405: components["responses"]["Http405"];
            /** @description Request Entity Too Large */
            413: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            414: components["responses"]["Http414"];
            415: components["responses"]["Http415"];
            421: components["responses"]["Http421"];
            /** @description Unprocessable Entity */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            500: components["responses"]["Http500"];
            503: components["responses"]["Http503"];
            507: components["responses"]["Http507"];
        };
    };
    tools_bring_cutting_cutting_post: {
        parameters: {
            query?: never;
            header: {
                /** @description Says that it is no form of a foreign page. */
                "X-Requested-With": components["parameters"]["Mark"];
            };
            path?: never;
            cookie?: never;
        };
        requestBody: {
            content: {
                "multipart/form-data": components["schemas"]["ToolsForm"];
            };
        };
        responses: {
            /** @description OK */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["BroughtView"];
                };
            };
            400: components["responses"]["Http400"];
            403: components["responses"]["Http403"];
            /** @description Not Found */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            405: components["responses"]["Http405"];
            /** @description Request Entity Too Large */
            413: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            414: components["responses"]["Http414"];
            415: components["responses"]["Http415"];
            421: components["responses"]["Http421"];
            /** @description Unprocessable Entity */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            500: components["responses"]["Http500"];
            503: components["responses"]["Http503"];
            507: components["responses"]["Http507"];
        };
    };
    floor_factors_shop_factors_get: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description OK */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["FactorsView"];
                };
            };
            400: components["responses"]["Http400"];
            403: components["responses"]["Http403"];
            405: components["responses"]["Http405"];
            414: components["responses"]["Http414"];
            415: components["responses"]["Http415"];
            421: components["responses"]["Http421"];
            /** @description Unprocessable Entity */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"][];
                };
            };
            500: components["responses"]["Http500"];
            503: components["responses"]["Http503"];
            507: components["responses"]["Http507"];
        };
    };
    floor_use_factor_shop_factors__machine___category__put: {
        parameters: {
            query?: never;
            header: {
                /** @description Says that it is no form of a foreign page. */
                "X-Requested-With": components["parameters"]["Mark"];
            };
            path: {
                machine: string;
                category: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description OK */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["FactorsView"];
                };
            };
            400: components["responses"]["Http400"];
            403: components["responses"]["Http403"];
            /** @description Not Found */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            405: components["responses"]["Http405"];
            414: components["responses"]["Http414"];
            415: components["responses"]["Http415"];
            421: components["responses"]["Http421"];
            /** @description Unprocessable Entity */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            500: components["responses"]["Http500"];
            503: components["responses"]["Http503"];
            507: components["responses"]["Http507"];
        };
    };
    floor_drop_factor_shop_factors__machine___category__delete: {
        parameters: {
            query?: never;
            header: {
                /** @description Says that it is no form of a foreign page. */
                "X-Requested-With": components["parameters"]["Mark"];
            };
            path: {
                machine: string;
                category: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description OK */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["FactorsView"];
                };
            };
            400: components["responses"]["Http400"];
            403: components["responses"]["Http403"];
            /** @description Not Found */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            405: components["responses"]["Http405"];
            414: components["responses"]["Http414"];
            415: components["responses"]["Http415"];
            421: components["responses"]["Http421"];
            /** @description Unprocessable Entity */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            500: components["responses"]["Http500"];
            503: components["responses"]["Http503"];
            507: components["responses"]["Http507"];
        };
    };
    tools_file_files__file__get: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                file: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description the file */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": string;
                    "text/csv": string;
                };
            };
            400: components["responses"]["Http400"];
            403: components["responses"]["Http403"];
            /** @description Not Found */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            405: components["responses"]["Http405"];
            /** @description Request Entity Too Large */
            413: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            414: components["responses"]["Http414"];
            415: components["responses"]["Http415"];
            421: components["responses"]["Http421"];
            /** @description Unprocessable Entity */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            500: components["responses"]["Http500"];
            503: components["responses"]["Http503"];
            507: components["responses"]["Http507"];
        };
    };
    tools_change_magazine_magazines__machine__put: {
        parameters: {
            query?: never;
            header: {
                /** @description Says that it is no form of a foreign page. */
                "X-Requested-With": components["parameters"]["Mark"];
            };
            path: {
                machine: string;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["MagazineBody"];
            };
        };
        responses: {
            /** @description OK */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["ShelfView"];
                };
            };
            400: components["responses"]["Http400"];
            403: components["responses"]["Http403"];
            /** @description Not Found */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            405: components["responses"]["Http405"];
            /** @description Request Entity Too Large */
            413: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            414: components["responses"]["Http414"];
            415: components["responses"]["Http415"];
            421: components["responses"]["Http421"];
            /** @description Unprocessable Entity */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            500: components["responses"]["Http500"];
            503: components["responses"]["Http503"];
            507: components["responses"]["Http507"];
        };
    };
    tools_drop_own_own__what___path_key__delete: {
        parameters: {
            query?: never;
            header: {
                /** @description Says that it is no form of a foreign page. */
                "X-Requested-With": components["parameters"]["Mark"];
            };
            path: {
                what: string;
                key: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description OK */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["ShelfView"];
                };
            };
            400: components["responses"]["Http400"];
            403: components["responses"]["Http403"];
            /** @description Not Found */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            405: components["responses"]["Http405"];
            /** @description Request Entity Too Large */
            413: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            414: components["responses"]["Http414"];
            415: components["responses"]["Http415"];
            421: components["responses"]["Http421"];
            /** @description Unprocessable Entity */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            500: components["responses"]["Http500"];
            503: components["responses"]["Http503"];
            507: components["responses"]["Http507"];
        };
    };
    quotes_terms_shop_terms_get: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description OK */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["TermsBody"];
                };
            };
            400: components["responses"]["Http400"];
            403: components["responses"]["Http403"];
            405: components["responses"]["Http405"];
            414: components["responses"]["Http414"];
            415: components["responses"]["Http415"];
            421: components["responses"]["Http421"];
            /** @description Unprocessable Entity */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"][];
                };
            };
            500: components["responses"]["Http500"];
            503: components["responses"]["Http503"];
            507: components["responses"]["Http507"];
        };
    };
    quotes_change_terms_shop_terms_put: {
        parameters: {
            query?: never;
            header: {
                /** @description Says that it is no form of a foreign page. */
                "X-Requested-With": components["parameters"]["Mark"];
            };
            path?: never;
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["TermsBody"];
            };
        };
        responses: {
            /** @description OK */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["TermsBody"];
                };
            };
            400: components["responses"]["Http400"];
            403: components["responses"]["Http403"];
            /** @description Not Found */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            405: components["responses"]["Http405"];
            413: components["responses"]["Http413"];
            414: components["responses"]["Http414"];
            415: components["responses"]["Http415"];
            421: components["responses"]["Http421"];
            /** @description Unprocessable Entity */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            500: components["responses"]["Http500"];
            503: components["responses"]["Http503"];
            507: components["responses"]["Http507"];
        };
    };
    tools_shelf_tools_get: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description OK */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["ShelfView"];
                };
            };
            400: components["responses"]["Http400"];
            403: components["responses"]["Http403"];
            405: components["responses"]["Http405"];
            414: components["responses"]["Http414"];
            415: components["responses"]["Http415"];
            421: components["responses"]["Http421"];
            /** @description Unprocessable Entity */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"][];
                };
            };
            500: components["responses"]["Http500"];
            503: components["responses"]["Http503"];
            507: components["responses"]["Http507"];
        };
    };
    tools_change_tool_tools_put: {
        parameters: {
            query?: never;
            header: {
                /** @description Says that it is no form of a foreign page. */
                "X-Requested-With": components["parameters"]["Mark"];
            };
            path?: never;
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["ToolRowBody"];
            };
        };
        responses: {
            /** @description OK */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["BroughtView"];
                };
            };
            400: components["responses"]["Http400"];
            403: components["responses"]["Http403"];
            /** @description Not Found */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            405: components["responses"]["Http405"];
            /** @description Request Entity Too Large */
            413: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            414: components["responses"]["Http414"];
            415: components["responses"]["Http415"];
            421: components["responses"]["Http421"];
            /** @description Unprocessable Entity */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            500: components["responses"]["Http500"];
            503: components["responses"]["Http503"];
            507: components["responses"]["Http507"];
        };
    };
    tools_bring_tools_tools_post: {
        parameters: {
            query?: never;
            header: {
                /** @description Says that it is no form of a foreign page. */
                "X-Requested-With": components["parameters"]["Mark"];
            };
            path?: never;
            cookie?: never;
        };
        requestBody: {
            content: {
                "multipart/form-data": components["schemas"]["ToolsForm"];
            };
        };
        responses: {
            /** @description OK */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["BroughtView"];
                };
            };
            400: components["responses"]["Http400"];
            403: components["responses"]["Http403"];
            /** @description Not Found */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            405: components["responses"]["Http405"];
            /** @description Request Entity Too Large */
            413: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            414: components["responses"]["Http414"];
            415: components["responses"]["Http415"];
            421: components["responses"]["Http421"];
            /** @description Unprocessable Entity */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            500: components["responses"]["Http500"];
            503: components["responses"]["Http503"];
            507: components["responses"]["Http507"];
        };
    };
    works_get_work__work__get: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                work: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description OK */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["WorkView"];
                };
            };
            400: components["responses"]["Http400"];
            403: components["responses"]["Http403"];
            /** @description Not Found */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            405: components["responses"]["Http405"];
            414: components["responses"]["Http414"];
            415: components["responses"]["Http415"];
            421: components["responses"]["Http421"];
            /** @description Unprocessable Entity */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"][];
                };
            };
            500: components["responses"]["Http500"];
            503: components["responses"]["Http503"];
            507: components["responses"]["Http507"];
        };
    };
    works_cancel_work__work__delete: {
        parameters: {
            query?: never;
            header: {
                /** @description Says that it is no form of a foreign page. */
                "X-Requested-With": components["parameters"]["Mark"];
            };
            path: {
                work: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description OK */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["WorkView"];
                };
            };
            400: components["responses"]["Http400"];
            403: components["responses"]["Http403"];
            /** @description Not Found */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            405: components["responses"]["Http405"];
            414: components["responses"]["Http414"];
            415: components["responses"]["Http415"];
            421: components["responses"]["Http421"];
            /** @description Unprocessable Entity */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"][];
                };
            };
            500: components["responses"]["Http500"];
            503: components["responses"]["Http503"];
            507: components["responses"]["Http507"];
        };
    };
}
